import { api } from '../api/client';
import { isRefusal, type Edit, type MaterialReading, type Surface, type TextureUse } from '../core/answers';
import type { EditSetMaterial } from '../wire/apiTypes';
import { get, set } from '../state/store';
import { listPictures } from './keptPictures';
import { guarded, open, say } from './open';
import { session } from './session';

/** What is done with materials and with the pictures of them. */

export type MaterialFields = Omit<EditSetMaterial, 'do' | 'material'>;

/** An edit of each of some materials. */
export function setMaterials(ids: string[], fields: MaterialFields): Edit[] {
  return ids.filter((id) => id !== '').map((material) => ({ do: 'setMaterial', material, ...fields }));
}

export function materialNamed(id: string): MaterialReading | undefined {
  return get().materials.find((m) => m.id === id);
}

/** The shapes and meshes among what is picked. */
export function drawnPicked(): string[] {
  const { selection, byId } = get();
  return selection.filter((id) => ['shape', 'mesh'].includes(byId.get(id)?.kind ?? ''));
}

/** Why what needs a shape or a mesh cannot be done; null: it can. */
export function nothingDrawn(): string | null {
  return drawnPicked().length > 0
    ? null
    : 'Nothing that is made of a material is picked. Pick a shape or a mesh first.';
}

/** Gives objects a material; in one slot or in all. */
export function give(material: string, nodes: string[], slot: number | null = null): boolean {
  return session.keep({
    do: 'assign',
    nodes,
    material,
    ...(slot === null ? {} : { slot }),
  });
}

/** A new material, like another where one is named, for what is picked where anything is. */
export function makeMaterial(like: string | null, nodes: string[], slot: number | null = null): string | null {
  const id = `m-${crypto.randomUUID()}`;
  const done = session.keep({
    do: 'material',
    id,
    ...(like === null || like === '' ? { name: 'Material' } : { like }),
    ...(nodes.length > 0 ? { nodes } : {}),
    ...(nodes.length > 0 && slot !== null ? { slot } : {}),
  });
  return done ? id : null;
}

/** Removes a material after saying who uses it; pressed again, it goes. */
export function removeMaterial(id: string): void {
  const users = open.core.materialUsersInWords(id);
  const name = materialNamed(id)?.name ?? '';
  const act = () => void session.keep({ do: 'removeMaterial', material: id });
  if (!users) act();
  else
    say({
      kind: 'warning',
      text: `“${name}” is used by ${users}, which then have no material there.`,
      act: { word: 'Remove it', do: act },
    });
}

/** What an edit of everything of a kind would do is said first. */
export function askFirst(edit: Edit, word: string): void {
  const seen = open.core.foresee([edit]);
  const said = isRefusal(seen) ? null : seen.foretold;
  if (!said) {
    session.keep(edit);
    return;
  }
  say({ kind: 'warning', text: said, act: { word, do: () => void session.keep(edit) } });
}

/** Picks all that is made of a material. */
export function pickUsers(id: string): void {
  const users = open.core.materialUsers(id).filter((user) => get().byId.has(user));
  if (users.length === 0) say({ kind: 'info', text: `Nothing is made of “${materialNamed(id)?.name ?? ''}”.` });
  else session.select(users);
}

/** What is picked takes the material of an object that was pressed. */
export function takeFrom(id: string): void {
  const { selection } = get();
  if (selection.length === 1 && selection[0] === id) {
    say({ kind: 'info', text: 'This is what takes it. Press on another object, or Esc to leave.' });
    return;
  }
  set({ picking: null, notice: null });
  session.keep({ do: 'takeMaterial', nodes: selection, from: id });
}

/** A surface with a picture in a channel, or without it. */
export function withPicture(surface: Surface, channel: string, use: Partial<TextureUse> | null): TextureUse[] {
  const others = surface.textures.filter((t) => t.channel !== channel);
  const before = surface.textures.find((t) => t.channel === channel);
  if (use === null) return others;
  const plain: TextureUse = {
    channel,
    image: '',
    texCoord: 0,
    wrapS: 10497,
    wrapT: 10497,
    magFilter: null,
    minFilter: null,
    strength: null,
    repeat: null,
    offset: null,
    turn: 0,
  };
  return [...others, { ...plain, ...before, ...use }];
}

/** What can be chosen when a picture comes in. */
export interface Brought {
  /** Cropped, turned and reduced. */
  image: Blob;
  name: string;
  /** How wide one picture is, in metres; null: by each thing's own coordinates. */
  metres: number | null;
}

/** Keeps a picture, and makes a material of it where one is wanted. */
export async function bringPicture({ image, name, metres }: Brought): Promise<boolean> {
  const { scene, bringing } = get();
  if (!scene || !bringing) return false;
  let done = false;
  await guarded(async () => {
    const kept = await api.bringPicture(scene.id, image, name);
    await listPictures();
    const { nodes, into } = bringing;
    const lies = metres === null ? null : { how: 'box', metres, aspect: kept.width / kept.height, true: true };
    if (into) {
      const material = materialNamed(into.material);
      if (material) {
        const textures = withPicture(material.surface, into.channel, { image: kept.hash });
        session.keep({ do: 'setMaterial', material: into.material, textures, ...(lies ? { lies } : {}) } as Edit);
      }
    } else if (nodes) {
      const like = {
        name: withoutEnding(name),
        color: '#FFFFFF',
        textures: withPicture({ textures: [] } as unknown as Surface, 'BaseColor', { image: kept.hash }),
        ...(lies ? { lies } : {}),
      };
      session.keep({ do: 'material', id: `m-${crypto.randomUUID()}`, like, nodes } as unknown as Edit);
    } else say({ kind: 'info', text: `Kept “${name}” for materials: ${kept.width} × ${kept.height} pixels.` });
    if (kept.notes?.length) say({ kind: 'warning', text: kept.notes.join(' ') });
    done = true;
  });
  if (done) set({ bringing: null });
  return done;
}

export const withoutEnding = (name: string) => name.replace(/\.(png|jpe?g|webp)$/i, '') || 'Picture';

/** Whether a file is a picture rather than a scene. */
export function isPicture(file: File): boolean {
  return file.type.startsWith('image/') || /\.(png|jpe?g|webp|gif|bmp|avif|tiff?)$/i.test(file.name);
}

/** Begins to bring a picture in. */
export function startBringing(
  file: Blob,
  name: string,
  nodes: string[] | null,
  into: MaterialTarget | null = null,
): void {
  set({ bringing: { image: file, name, nodes, into } });
}

type MaterialTarget = { material: string; channel: string };

const balls: { timer: ReturnType<typeof setTimeout> | undefined; wanted: Set<string> } = {
  timer: undefined,
  wanted: new Set(),
};

/** Asks for the small picture of a material; drawn when nothing else is to be done. */
export function wantBall(id: string): void {
  balls.wanted.add(id);
  balls.timer ??= setTimeout(drawBalls, 60);
}

/** So many are drawn at once. */
const atOnce = 6;

function drawBalls(): void {
  balls.timer = undefined;
  const { trying, running } = get();
  if (!open.picture || trying || running) {
    if (balls.wanted.size > 0) balls.timer = setTimeout(drawBalls, 300);
    return;
  }
  const some = [...balls.wanted].slice(0, atOnce);
  const made = new Map(get().balls);
  for (const id of some) {
    balls.wanted.delete(id);
    const material = materialNamed(id);
    if (!material) made.delete(id);
    else {
      const url = open.picture.ball(id);
      if (url) made.set(id, { shows: showsOf(material), url });
    }
  }
  set({ balls: made });
  if (balls.wanted.size > 0) balls.timer = setTimeout(drawBalls, 60);
}

/** What the small picture of a material shows. */
export function showsOf({ surface }: MaterialReading): string {
  return JSON.stringify(surface) + (surface.textures.length > 0 ? get().picturesCame : '');
}
