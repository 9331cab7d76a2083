import type { NodeAnswer } from '../../core/answers';
import { GroupPanel } from '../group/GroupPanel';
import { LampPanel } from '../lamp/LampPanel';
import { LensPanel } from '../lens/LensPanel';
import { MaterialPanel } from '../material/MaterialPanel';
import { ShapePanel } from '../shape/ShapePanel';
import { SurfacePanel } from '../surface/SurfacePanel';
import { Remark } from './Remark';

/** What the picked object is. */
export function WhatChapter({ lead }: { lead: NodeAnswer }) {
  return (
    <>
      {lead.node.kind === 'mark' && (
        <Remark>A mark is a place with directions and nothing else. Where it stands is in the first chapter.</Remark>
      )}
      <ShapePanel lead={lead} />
      <SurfacePanel lead={lead} />
      <MaterialPanel lead={lead} />
      <LampPanel lead={lead} />
      <LensPanel lead={lead} />
      <GroupPanel lead={lead} />
    </>
  );
}
