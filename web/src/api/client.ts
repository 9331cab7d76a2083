import type { Edit, Refusal } from '../core/answers';
import type {
  KeptPicture,
  PictureAnswer,
  LogAnswer,
  LogEntry,
  NamedSelection,
  PartChange,
  RemovedScene,
  SceneAnswer,
  SceneSummary,
  StepAnswer,
  StepEntry,
  EditsRequest,
  ShotListAnswer,
  ShotPictureEntry,
  Still,
  StillAnswer,
  StopAnswer,
  UnusedBlobs,
} from '../wire/apiTypes';

/** A refusal of the server, as its problem details say it. */
export class Refused extends Error {
  constructor(
    readonly refusal: string,
    readonly detail: string,
    readonly status: number,
  ) {
    super(detail);
  }
}

/** The server could not be reached, or could not do it at the moment. */
export class OutOfReach extends Error {
  /** @param answered It did answer, that something failed on its side: what it said of that, where it is the disk. */
  constructor(
    readonly answered = false,
    readonly said?: string,
  ) {
    super();
  }

  /** What an artist is told. */
  get sentence(): string {
    return this.said ?? 'The server is out of reach. Try again when it is back.';
  }
}

/** How the server is, as it says itself; nothing where it does not answer. */
export type Wellness = 'ok' | 'no room' | 'no database' | null;

/** What was asked for was stopped from here. */
export class Stopped extends Error {}

/** Something long that was asked for: by which page, under which name it can be stopped, and what drops the call itself. */
export interface Asked {
  page: string | null;
  work: string;
  signal: AbortSignal;
}

/** How far something long is on the server; 0 of 0 where it cannot be counted. */
export interface Progress {
  doing: string;
  done: number;
  all: number;
}

/** Geometry or pictures that nothing uses. */
export type Unused = UnusedBlobs;

/** What a step wrote of one thing. */
export type StepChange = PartChange;

/** The short answer to edits: a page that computed the same knows it by the digest. */
export type BriefAnswer = Pick<StepAnswer, 'revision' | 'step'> & { digest: string };

export type {
  ShotListAnswer,
  LogEntry,
  NamedSelection,
  RemovedScene,
  SceneAnswer,
  SceneSummary,
  StepAnswer,
  StepEntry,
};

/** What a person has set, as it is kept for them; what it may hold is the page's to say. */
export type OwnSettings = Record<string, unknown>;

/** Asks that a refusal is answered as such, not as a failed call, which browsers write into their log. */
const lenient = 'handling=lenient';

async function call(
  method: string,
  path: string,
  body?: BodyInit,
  type = 'application/json',
  headers: Record<string, string> = {},
  signal?: AbortSignal,
): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      // Small calls arrive though the page is left meanwhile; browsers allow 64 kB of them at a time.
      keepalive: typeof body === 'string' && body.length < 16_000,
      headers: { ...headers, ...(body === undefined ? {} : { 'content-type': type }) },
      ...(body === undefined ? {} : { body }),
      ...(signal ? { signal } : {}),
    });
  } catch {
    throw signal?.aborted ? new Stopped() : new OutOfReach();
  }
  if (response.ok && response.headers.get('preference-applied') !== lenient) return response;
  if (response.status === 507) {
    const problem = (await response.json().catch(() => null)) as Partial<Refusal> | null;
    throw new OutOfReach(true, problem?.detail);
  }
  if (response.status >= 500) throw new OutOfReach(true);
  // Steps wait until they may be sent again; nothing is lost.
  if (response.status === 429 && /\/(edits|undo|redo)$/.test(path)) throw new OutOfReach();
  const problem = (await response.json().catch(() => null)) as Partial<Refusal> | null;
  throw new Refused(
    problem?.refusal ?? 'failed',
    problem?.detail ?? 'The server did not accept this. Nothing was changed.',
    response.status,
  );
}

async function json<T>(method: string, path: string, body?: object, headers?: Record<string, string>): Promise<T> {
  const content = body === undefined ? undefined : JSON.stringify(body);
  const response = await call(method, path, content, undefined, headers);
  return (response.status === 204 ? undefined : await response.json()) as T;
}

/** Names the page's connection to the hub, so that it is not told what it is answered. */
const own = (page: string | null): Record<string, string> => (page === null ? {} : { 'Page-Connection': page });

const long = ({ page, work }: Asked): Record<string, string> => ({ ...own(page), Work: work });

/** The shot that edits are computed on, and whether they are made in it alone; nothing: in the scene. */
export interface Within {
  shot?: string;
  scope?: NonNullable<EditsRequest['scope']>;
}

/** A file that was sent, and the name that it is to have. */
async function fileOf(response: Response, otherwise: string): Promise<{ blob: Blob; name: string }> {
  const given = /filename\*=UTF-8''([^;]+)/.exec(response.headers.get('content-disposition') ?? '')?.[1];
  return { blob: await response.blob(), name: given ? decodeURIComponent(given) : otherwise };
}

const scene = (id: string) => `/api/scenes/${encodeURIComponent(id)}`;

function typeOf({ name }: File): string {
  return /\.zip$/i.test(name) ? 'application/zip' : /\.gltf$/i.test(name) ? 'model/gltf+json' : 'model/gltf-binary';
}

export const api = {
  /** Whether server and database are well, whatever became of one call. */
  wellness: () =>
    fetch('/healthz')
      .then((response) => response.json() as Promise<{ status: Wellness }>)
      .then(
        ({ status }) => status,
        () => null,
      ),
  scenes: () => json<SceneSummary[]>('GET', '/api/scenes'),
  create: (name: string, like: string) => json<SceneAnswer>('POST', '/api/scenes', { name, like }),
  describe: (id: string, change: { name?: string; unit?: string; keepSteps?: number }) =>
    json<SceneAnswer>('PATCH', scene(id), change),
  bin: () => json<RemovedScene[]>('GET', '/api/bin'),
  bringBack: (id: string) => json<SceneAnswer>('POST', `/api/bin/${encodeURIComponent(id)}`),
  removeForGood: (id: string) => json<void>('DELETE', `/api/bin/${encodeURIComponent(id)}`),
  emptyBin: () => json<void>('DELETE', '/api/bin'),
  remove: (id: string) => json<void>('DELETE', scene(id)),
  restoreDemo: () => json<SceneAnswer>('POST', '/api/demo'),
  /** The latest steps before a number, in order; the latest of all where none is given. */
  steps: (id: string, most: number, before?: number) =>
    json<StepEntry[]>('GET', `${scene(id)}/steps?most=${most}${before === undefined ? '' : `&before=${before}`}`),
  /** What led from a revision to the scene as it stands. */
  log: (id: string, after: number) => json<LogAnswer>('GET', `${scene(id)}/log?after=${after}`),
  editBriefly: (id: string, base: number, key: string, edits: Edit[], within: Within, page: string | null) =>
    json<BriefAnswer>(
      'POST',
      `${scene(id)}/edits`,
      { base, key, edits, ...within },
      { Prefer: 'return=minimal', ...own(page) },
    ),
  edit: (id: string, base: number, key: string, edits: Edit[], within: Within) =>
    json<StepAnswer>('POST', `${scene(id)}/edits`, { base, key, edits, ...within }),
  undo: (id: string, base: number, key: string, to: number | undefined, page: string | null) =>
    json<StepAnswer>('POST', `${scene(id)}/undo`, { base, key, to }, { Prefer: lenient, ...own(page) }),
  redo: (id: string, base: number, key: string, to: number | undefined, page: string | null) =>
    json<StepAnswer>('POST', `${scene(id)}/redo`, { base, key, to }, { Prefer: lenient, ...own(page) }),
  stepChange: (id: string, number: number) => json<StepChange[]>('GET', `${scene(id)}/steps/${number}`),
  nameStep: (id: string, number: number, name: string | null) =>
    json<void>('PATCH', `${scene(id)}/steps/${number}`, name === null ? {} : { name }),
  selections: (id: string) => json<NamedSelection[]>('GET', `${scene(id)}/selections`),
  keepSelection: (id: string, name: string, nodes: string[]) =>
    json<void>('PUT', `${scene(id)}/selections`, { name, nodes }),
  forgetSelection: (id: string, name: string) =>
    json<void>('DELETE', `${scene(id)}/selections?name=${encodeURIComponent(name)}`),
  unused: (id: string) => json<Unused>('GET', `${scene(id)}/unused`),
  clearUnused: (id: string) => json<Unused>('DELETE', `${scene(id)}/unused`),
  settings: () => json<OwnSettings>('GET', '/api/me/settings'),
  saveSettings: (settings: OwnSettings) => json<OwnSettings>('PUT', '/api/me/settings', settings),
  document: async (id: string) => new Uint8Array(await (await call('GET', `${scene(id)}/document`)).arrayBuffer()),
  geometry: async (id: string, hash: string) =>
    new Uint8Array(await (await call('GET', `${scene(id)}/geometry/${hash}`)).arrayBuffer()),
  triangles: async (id: string, hash: string) =>
    new Uint8Array(await (await call('GET', `${scene(id)}/geometry/${hash}/triangles`)).arrayBuffer()),
  picture: async (id: string, hash: string) => (await call('GET', `${scene(id)}/pictures/${hash}`)).blob(),
  pictures: (id: string) => json<KeptPicture[]>('GET', `${scene(id)}/pictures`),
  /** Where a picture of a material lies. */
  pictureAt: (id: string, hash: string) => `${scene(id)}/pictures/${hash}`,
  bringPicture: async (id: string, image: Blob, name: string) =>
    (await (
      await call('POST', `${scene(id)}/pictures?name=${encodeURIComponent(name)}`, image, image.type)
    ).json()) as PictureAnswer,
  letPictureGo: async (id: string, hash: string) => void (await call('DELETE', `${scene(id)}/pictures/${hash}`)),
  stills: (id: string) => json<Still[]>('GET', `${scene(id)}/stills`),
  keepStill: async (
    id: string,
    picture: Blob,
    about: { name: string; shot: string | null; revision: number; passes: number; seconds: number; madeOf: string },
  ) => {
    const { shot, ...rest } = about;
    const words = new URLSearchParams({
      ...Object.fromEntries(Object.entries(rest).map(([key, value]) => [key, String(value)])),
      ...(shot === null ? {} : { shot }),
    });
    return (await (await call('POST', `${scene(id)}/stills?${words}`, picture, 'image/png')).json()) as StillAnswer;
  },
  addToStill: async (id: string, still: string, part: string, image: Blob) =>
    void (await call('PUT', `${scene(id)}/stills/${still}/${part}`, image, image.type)),
  /** Where a still, or what lies beside it, lies. */
  stillAt: (id: string, still: string, part = 'picture') => `${scene(id)}/stills/${still}/${part}`,
  stillImage: async (id: string, still: string, part: string) =>
    (await call('GET', `${scene(id)}/stills/${still}/${part}`)).blob(),
  removeStill: async (id: string, still: string) => void (await call('DELETE', `${scene(id)}/stills/${still}`)),
  /** Stops work. @returns "stopped": nothing came of it; "done": too late; "unknown": the server has not begun it. */
  stopWork: async (work: string) => (await json<StopAnswer>('DELETE', `/api/me/work/${work}`)).ended,
  import: async (file: File, asked: Asked) => {
    const name = file.name.replace(/\.[^.]+$/, '');
    const path = `/api/scenes/import?name=${encodeURIComponent(name || 'Imported')}`;
    return (await (await call('POST', path, file, typeOf(file), long(asked), asked.signal)).json()) as SceneAnswer;
  },
  importInto: async (
    id: string,
    file: File,
    where: { under?: string; at?: string; mark?: string } & Within,
    asked: Asked,
  ) => {
    const words = new URLSearchParams({ name: file.name, ...where });
    const response = await call('POST', `${scene(id)}/import?${words}`, file, typeOf(file), long(asked), asked.signal);
    return (await response.json()) as StepAnswer & { notes?: string[] | null };
  },
  /** Where the picture of a scene lies, as it was at a revision. */
  pictureOf: (id: string, revision: number) => `${scene(id)}/picture?revision=${revision}`,
  keepPicture: async (id: string, revision: number, picture: Blob) =>
    void (await call('PUT', `${scene(id)}/picture?revision=${revision}`, picture, picture.type)),
  /** Which revisions the pictures of the shots show. */
  shotPictures: (id: string) => json<ShotPictureEntry[]>('GET', `${scene(id)}/shots/pictures`),
  pictureOfShot: async (id: string, shot: string, revision: number) =>
    (await call('GET', `${scene(id)}/shots/${encodeURIComponent(shot)}/picture?revision=${revision}`)).blob(),
  keepShotPicture: async (id: string, shot: string, revision: number, picture: Blob) =>
    void (await call(
      'PUT',
      `${scene(id)}/shots/${encodeURIComponent(shot)}/picture?revision=${revision}`,
      picture,
      picture.type,
    )),
  /** The file, and the name that it is to have; of one shot alone where one is named. */
  export: async (id: string, format: 'glb' | 'gltf', shot: string | null, asked: Asked) => {
    const path = `${scene(id)}/export?format=${format}${shot === null ? '' : `&shot=${encodeURIComponent(shot)}`}`;
    const response = await call('GET', path, undefined, undefined, long(asked), asked.signal);
    return { ...(await fileOf(response, `scene.${format}`)), note: response.headers.get('calm-pivot-note') };
  },
  /** The list of shots as a file. */
  shotList: async (id: string, format: 'csv' | 'otio') =>
    fileOf(await call('GET', `${scene(id)}/shots?format=${format}`), `shots.${format}`),
  /** What a list would make of the shots. */
  askShotList: async (id: string, file: File, withOff: boolean) => {
    const path = `${scene(id)}/shots/import?only=ask${withOff ? '&off=take' : ''}`;
    return (await (await call('POST', path, file, 'text/csv')).json()) as ShotListAnswer;
  },
};
