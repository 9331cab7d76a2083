import { Tabs } from 'radix-ui';
import type { NodeAnswer } from '../../core/answers';
import { session } from '../../acts/session';
import { later } from '../../controls/later';
import { settingsOf, type Chapter } from '../../state/settings';
import { useStore } from '../../state/store';
import { ArrangePanel } from '../arrange/ArrangePanel';
import { PivotPanel } from '../pivot/PivotPanel';
import { PlacementPanel } from '../placement/PlacementPanel';
import { TakesPanel } from '../takes/TakesPanel';
import { Remark } from './Remark';
import { ShotPanel } from '../shotCards/ShotPanel';

// Most arrange: the other two chapters are fetched when they are first turned to.
const WhatChapter = later(() => import('./WhatChapter').then((m) => m.WhatChapter));
const WhyChapter = later(() => import('./WhyChapter').then((m) => m.WhyChapter));

const chapters: { chapter: Chapter; word: string; means: string }[] = [
  {
    chapter: 'where',
    word: 'Where',
    means: 'Where it stands: placement, pivot, what it takes of its parent, arranging',
  },
  { chapter: 'what', word: 'What', means: 'What it is: shape, surface, material, lamp, camera, group' },
  { chapter: 'why', word: 'Why', means: 'Why it is here, and why it is seen or not' },
];

/** The picked objects in three chapters; the last one that was open is open again. */
export function Chapters() {
  const lead = useStore((s) => s.lead);
  const many = useStore((s) => s.selection.length);
  const { chapter } = settingsOf(useStore((s) => s.settings));
  return (
    <Tabs.Root
      value={chapter}
      onValueChange={(to) => session.saveSettings({ chapter: to as Chapter })}
      className="flex h-full min-h-0 flex-col"
    >
      <Tabs.List
        aria-label="Chapters"
        className="flex h-11 shrink-0 items-stretch gap-4 border-b border-line px-3.5"
        loop={false}
      >
        {chapters.map(({ chapter: at, word, means }) => (
          <Tabs.Trigger
            key={at}
            value={at}
            title={means}
            className="rounded-sm border-b-2 border-transparent px-0.5 pt-0.5 -outline-offset-2 text-[13.5px] text-ink-2 hover:text-plum data-[state=active]:border-plum data-[state=active]:font-semibold data-[state=active]:text-ink-1"
          >
            {word}
          </Tabs.Trigger>
        ))}
        {many > 1 && (
          <span className="ml-auto self-center text-ink-2" title="Values that differ read “mixed”">
            {many} picked
          </span>
        )}
      </Tabs.List>
      {chapters.map(({ chapter: at }) => (
        <Tabs.Content key={at} value={at} className="min-h-0 flex-1 overflow-auto outline-offset-[-2px]">
          {lead ? <Chapter chapter={at} lead={lead} /> : <Nothing />}
          {!lead && at === 'why' && <ShotPanel />}
        </Tabs.Content>
      ))}
    </Tabs.Root>
  );
}

function Chapter({ chapter, lead }: { chapter: Chapter; lead: NodeAnswer }) {
  if (chapter === 'why')
    return (
      <>
        <WhyChapter lead={lead} />
        <ShotPanel />
      </>
    );
  if (chapter === 'where')
    return (
      <>
        <PlacementPanel lead={lead} />
        {lead.node.kind !== 'mark' && <PivotPanel lead={lead} />}
        <TakesPanel lead={lead} />
        <ArrangePanel />
      </>
    );
  return <WhatChapter lead={lead} />;
}

function Nothing() {
  return <Remark>Nothing is picked. What you pick shows here where it is, what it is, and why.</Remark>;
}
