/**
 * What the core answers, by the names that the page uses. All but a few are generated (bridgeTypes.ts): what stands here is
 * what the page adds.
 */
import type {
  AmountAnswer,
  BoundsAnswer,
  CameraAnswer,
  CaughtAnswer,
  ColorsAnswer,
  CommonChannels,
  DrawnAnswer,
  ForeseenAnswer,
  FrameAnswer,
  HeardAnswer,
  KeptAnswer,
  LeadAnswer,
  LensAnswer,
  LimitsAnswer,
  Look as PlainLook,
  NodeKind as KindOfNode,
  OngoingAnswer,
  RefusalAnswer,
  ShadowAnswer,
  TrialAnswer,
} from '../wire/bridgeTypes';
import type {
  Edit,
  GoneEntity,
  PartChange,
  EntityData as WrittenEntity,
  NodeData as WrittenNode,
} from '../wire/apiTypes';

export type {
  Camera,
  CommonCamera,
  CommonLight,
  Constraint,
  DrawnAs,
  EntityData,
  EulerOrder,
  Foretelling,
  Label,
  LensPart,
  LensShape,
  Light,
  LightType,
  LinkReading,
  LinkThread,
  MadeOf,
  LampReading,
  MaterialReading,
  SurroundingsAnswer,
  NodeAnswer,
  NodeData,
  Normals,
  Placement,
  Projection,
  Reading,
  Reason,
  Rule,
  SeenAnswer,
  Surface,
  TextureUse,
  Shape,
  SnapKind,
  Stale,
  StrayPivot,
  SurfaceAnswer,
  Vec3,
} from '../wire/bridgeTypes';
export { rowBits, sightBits } from '../wire/bridgeTypes';
export type { About, Edit, Space } from '../wire/apiTypes';

export type Refusal = RefusalAnswer;
export type Bounds = BoundsAnswer;
export type CameraView = CameraAnswer;
export type Lens = LensAnswer;
export type Caught = CaughtAnswer;
export type CollectionColors = ColorsAnswer;
export type Foreseen = ForeseenAnswer;
export type Frame = FrameAnswer;
export type Heard = HeardAnswer;
export type Limits = LimitsAnswer;
export type Ongoing = OngoingAnswer;
export type Shadow = ShadowAnswer;
/** What a trial came to; of the lead only what it changes. */
export type Tried = Omit<TrialAnswer, 'lead'> & {
  lead: (Omit<LeadAnswer, 'placement'> & { placement: Partial<LeadAnswer['placement']> }) | null;
};
export type Understood = AmountAnswer;
/** Values that several objects have in common; null where they differ. */
export type Common = CommonChannels;

/** Everything that has a line in the tree or beside it. */
export type NodeKind = KindOfNode | 'collection';
export type Channel = 'position' | 'rotation' | 'scale' | 'size';

/** What an object looks like, apart from where it stands; many share one. */
export interface Look extends PlainLook {
  /** A word for the triangles that the core makes for it. */
  made: string;
}

/** What came of keeping edits; those that are to be sent. */
export type Kept = Omit<KeptAnswer, 'edits'> & { edits: Edit[] };

/** A shape that is being drawn by eye. */
export type DrawnShape = Omit<DrawnAnswer, 'edit'> & { edit?: Edit };

/** A step of the server as the core hears it. */
export interface ServerStep {
  revision: number;
  changed: WrittenNode[];
  removed: string[];
  /** What was written, and what is gone, beside nodes; an answer of a former version has neither. */
  entities?: WrittenEntity[];
  gone?: GoneEntity[];
  /** What was written, part by part, where the log says it; then nothing else does. */
  written?: PartChange[];
  ticket: number | null;
}

export function isRefusal(answer: unknown): answer is Refusal {
  return typeof answer === 'object' && answer !== null && 'refusal' in answer;
}
