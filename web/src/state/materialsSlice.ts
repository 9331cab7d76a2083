import type { MaterialReading } from '../core/answers';
import type { KeptPicture } from '../wire/apiTypes';

/** What the page holds of materials. */
export interface MaterialsSlice {
  /** All of the scene, in their order; while an edit is tried, as it makes them. */
  materials: MaterialReading[];
  /** Pictures that are kept for materials. */
  kept: KeptPicture[];
  /** The slot of the lead whose material is shown. */
  slot: number;
  /** Which drawer of the tray is open. */
  drawer: Drawer;
  /** A picture that is being brought in; null: none. */
  bringing: Bringing | null;
  /** A material that is dragged over the stage, and the part that would get it. */
  giving: { material: string; node: string; slot: number } | null;
  /** Small pictures of materials, by id: what each shows, and where it lies. */
  balls: Map<string, { shows: string; url: string }>;
  /** Counts the pictures that have come since: balls that show one are drawn again. */
  picturesCame: number;
}

export type Drawer = 'shots' | 'materials' | 'lamps' | 'stills';

/** An image on its way in. */
export interface Bringing {
  image: Blob;
  name: string;
  /** The objects that a material of it is made for; of null it is only kept. */
  nodes: string[] | null;
  /** The material and the channel that it is for instead. */
  into: { material: string; channel: string } | null;
}

/** Nothing brought in or given, as it is when a scene is entered. */
export const materialsAtRest = {
  kept: [],
  slot: 0,
  bringing: null,
  giving: null,
  balls: new Map(),
} satisfies Partial<MaterialsSlice>;

export const materialsSlice: MaterialsSlice = {
  ...materialsAtRest,
  materials: [],
  drawer: 'shots',
  picturesCame: 0,
};
