import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { readScene, type ReadScene } from '../scene/migrate';
import type { Scene } from '../scene/schema';
import { contentHash } from './hash';
import { checkSize, FileError, MAX_FILE_BYTES } from './limits';

/** A scene file as it was read. */
export interface OpenedScene extends ReadScene {
  /** Bytes of the meshes that came along, by content hash. */
  files: Map<string, Uint8Array>;
  /** Hashes that the scene names and the file does not have (or has damaged). */
  missing: string[];
}

const zipped = (bytes: Uint8Array) => bytes[0] === 0x50 && bytes[1] === 0x4b;

const FORMATS = ['glb', 'png', 'jpeg', 'hdr'] as const;

/** A file that a scene needs beside its document: a mesh, or a picture. */
export interface NeededFile {
  hash: string;
  format: (typeof FORMATS)[number];
  fileName: string;
}

/** What was set aside goes out whole, with the files that it names. */
function filesAside({ aside }: Scene): NeededFile[] {
  const found: NeededFile[] = [];
  const look = (v: unknown): void => {
    if (typeof v !== 'object' || v === null) return;
    const { hash, format, fileName } = v as Partial<NeededFile>;
    if (
      typeof hash === 'string' &&
      /^[0-9a-f]{64}$/.test(hash) &&
      format !== undefined &&
      FORMATS.includes(format)
    )
      found.push({ hash, format, fileName: String(fileName ?? '') });
    else Object.values(v).forEach(look);
  };
  look(aside);
  return found;
}

/** The meshes and pictures that a scene needs. */
export function neededFiles(scene: Scene): NeededFile[] {
  const files = [...scene.props, ...scene.surfaces].flatMap(({ mesh }): NeededFile[] => {
    if (mesh.source === 'file') return [mesh];
    if (mesh.source === 'stamp') return [mesh.picture, mesh.relief].filter((p) => p !== null);
    return mesh.source === 'made' && mesh.shape.shape === 'picture' && mesh.shape.picture
      ? [mesh.shape.picture]
      : [];
  });
  const pictures = scene.masks.flatMap(({ layers }) =>
    layers.flatMap((l): NeededFile[] => (l.kind === 'picture' && l.picture ? [l.picture] : [])),
  );
  const worn = scene.materials.flatMap(({ picture }): NeededFile[] => (picture ? [picture] : []));
  const baked = scene.surfaces.flatMap(({ baked: b }): NeededFile[] =>
    Object.values(b?.made ?? {}).filter((made) => made !== null),
  );
  const around = scene.light?.surround.panorama;
  if (around) worn.push(around);
  return [
    ...new Map(
      [...files, ...pictures, ...worn, ...baked, ...filesAside(scene)].map((r) => [r.hash, r]),
    ).values(),
  ];
}

/** The scene as JSON text: two spaces, a line end, the same text for the same scene. */
export function sceneJson(scene: Scene): string {
  return `${JSON.stringify(scene, null, 2)}\n`;
}

/**
 * A `.clothesline` file: a zip of scene.json and meshes/<hash>.glb (or .png, .jpeg, .hdr), the same bytes for the same scene.
 * Meshes that are not at hand are left out; the scene still names them.
 */
export function packScene(scene: Scene, bytesOf: (hash: string) => Uint8Array | undefined): Uint8Array {
  const entries: Record<string, Uint8Array> = { 'scene.json': strToU8(sceneJson(scene)) };
  for (const ref of [...neededFiles(scene)].sort((a, b) => (a.hash < b.hash ? -1 : 1))) {
    const bytes = bytesOf(ref.hash);
    if (bytes) entries[`meshes/${ref.hash}.${ref.format}`] = bytes;
  }
  return zipSync(entries, { level: 6, mtime: new Date(1980, 0, 1) });
}

function unzip(bytes: Uint8Array, name: string): Record<string, Uint8Array> {
  let total = 0;
  try {
    return unzipSync(bytes, {
      filter: (file) => {
        total += file.originalSize;
        if (total > MAX_FILE_BYTES * 4)
          throw new FileError(`“${name}” unpacks to more than 1 GB. Open a smaller scene.`);
        return file.name === 'scene.json' || /^meshes\/[0-9a-f]{64}\.(glb|png|jpeg|hdr)$/.test(file.name);
      },
    });
  } catch (error) {
    if (error instanceof FileError) throw error;
    throw new FileError(
      `“${name}” is damaged or cut short and cannot be unpacked. Copy it again, or open an earlier one.`,
    );
  }
}

/**
 * Opens a `.clothesline` file, or a scene.json whose meshes are all built in.
 * @throws FileError or SceneFileError, each with one clear sentence; nothing else is changed by a bad file
 */
export function openScene(bytes: Uint8Array, name: string): OpenedScene {
  checkSize(bytes, name);
  const entries: Record<string, Uint8Array> = zipped(bytes) ? unzip(bytes, name) : { 'scene.json': bytes };
  const text = entries['scene.json'];
  if (!text)
    throw new FileError(`“${name}” has no scene.json inside. It is not a scene; choose another file.`);
  let json: unknown;
  try {
    json = JSON.parse(strFromU8(text));
  } catch {
    throw new FileError(`“${name}” is not a Clothesline scene, or it is cut short. Choose another file.`);
  }
  const read = readScene(json);
  const files = new Map<string, Uint8Array>();
  const missing: string[] = [];
  for (const ref of neededFiles(read.scene)) {
    const found = entries[`meshes/${ref.hash}.${ref.format}`];
    if (found && contentHash(found) === ref.hash) files.set(ref.hash, found);
    else missing.push(ref.hash);
  }
  return { ...read, files, missing };
}
