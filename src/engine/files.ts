import { stampCard } from '@/core/mesh/stamp/card';
import { seenFromAbove } from '@/core/mesh/stamp/fromMesh';
import { stampMaps, type StampMaps } from '@/core/mesh/stamp/maps';
import { writeStamp, type WrittenStamp } from '@/core/formats/stampWrite';
import type { Assets } from '@/core/evaluate/scene';
import { readMovingGlb } from '@/core/formats/glbRead';
import { contentHash } from '@/core/formats/hash';
import { isJpeg } from '@/core/formats/jpegRead';
import { openPanorama } from '@/core/formats/panoramaRead';
import { pictureFormat, readPicture } from '@/core/formats/pictureRead';
import { isLarge } from '@/core/formats/pngRead';
import { inSentences } from '@/core/formats/sentence';
import type { Surround } from '@/core/light/panoramaSchema';
import { lineMesh } from '@/core/mesh/make/line';
import type { GreyPicture } from '@/core/mesh/make/picture';
import { meshBounds, propMatrix, type Bounds, type Mesh } from '@/core/mesh/mesh';
import type { MeshRef, PictureRef, Stamp } from '@/core/mesh/meshRef';
import type { Motion } from '@/core/mesh/motion';
import type { Prop } from '@/core/mesh/propSchema';
import { builtMesh, builtMotion } from '@/demo/library';

/** A file that was brought in, looked at. */
export interface BroughtIn {
  hash: string;
  fileName: string;
  bounds: Bounds;
  triangles: number;
  /** Its animations: names and seconds. */
  clips: { name: string; duration: number }[];
  mesh: Mesh;
  /** What else the file has, in words: it is not kept. */
  notKept: string[];
}

/** A file that is kept, and what was read of it. */
interface Kept {
  bytes: Uint8Array;
  mesh?: Mesh;
  motion?: Motion | null;
  picture?: GreyPicture;
}

/** The files that scenes name by the hash of what is in them, and the meshes and pictures that come of them. */
export class EngineFiles {
  private files = new Map<string, Kept>();

  /** @param bundleMesh the mesh of a bundle that is placed as a prop */
  constructor(private bundleMesh: (bundle: string) => Mesh | undefined) {}

  /** What scenes are worked out from. */
  readonly assets: Assets = {
    mesh: (ref) => this.mesh(ref),
    picture: (hash) => this.files.get(hash)?.picture,
    motion: (ref) =>
      ref.source === 'built'
        ? builtMotion(ref.name)
        : ref.source === 'file'
          ? (this.files.get(ref.hash)?.motion ?? undefined)
          : undefined,
  };

  bytes(hash: string): Uint8Array | undefined {
    return this.files.get(hash)?.bytes;
  }

  /** Keeps a file of which nothing is read. */
  keep(bytes: Uint8Array): void {
    this.files.set(contentHash(bytes), { bytes });
  }

  /** A mesh that is at hand; undefined for one that is not. */
  mesh(ref: MeshRef): Mesh | undefined {
    if (ref.source === 'bundle') return this.bundleMesh(ref.bundle);
    if (ref.source === 'line') return lineMesh(ref);
    if (ref.source === 'stamp') return this.card(ref);
    return ref.source === 'built' ? builtMesh(ref.name) : this.files.get(ref.hash)?.mesh;
  }

  private cards = new Map<string, { bytes: Uint8Array | undefined; mesh: Mesh }>();

  /** A stamp as a card, the same one for the same numbers and picture. */
  private card(stamp: Stamp): Mesh {
    const key = JSON.stringify([stamp.picture, stamp.width, stamp.length]);
    const bytes = stamp.picture ? this.files.get(stamp.picture.hash)?.bytes : undefined;
    const have = this.cards.get(key);
    if (have && have.bytes === bytes) return have.mesh;
    const picture = bytes && { mime: `image/${stamp.picture!.format}`, bytes };
    const mesh = stampCard(stamp, picture);
    this.cards.set(key, { bytes, mesh });
    return mesh;
  }

  /** What a stamp is drawn from; what of its pictures is not at hand is as if it were not there. */
  stampMaps(stamp: Stamp): StampMaps {
    return stampMaps(stamp, (hash) => this.files.get(hash)?.picture);
  }

  /** A prop seen from above, as the pictures of a stamp; null where its mesh is not at hand, or has no extent. */
  stampFrom(prop: Prop): WrittenStamp | null {
    const mesh = this.mesh(prop.mesh);
    const seen = mesh && seenFromAbove(mesh, propMatrix(prop, meshBounds(mesh)));
    return seen ? writeStamp(seen, prop.name) : null;
  }

  /** @throws FileError for a file that cannot be read */
  async bringIn(bytes: Uint8Array, fileName: string): Promise<BroughtIn> {
    const { mesh, motion, notKept } = await inSentences(fileName, () => readMovingGlb(bytes, fileName));
    const hash = contentHash(bytes);
    this.files.set(hash, { bytes, mesh, motion });
    return {
      hash,
      fileName,
      bounds: meshBounds(mesh),
      triangles: mesh.indices.length / 3,
      mesh,
      clips: motion?.clips ?? [],
      notKept,
    };
  }

  /** A panorama: its bytes are kept. @throws FileError for a file that is none */
  async bringInPanorama(bytes: Uint8Array, fileName: string): Promise<NonNullable<Surround['panorama']>> {
    await inSentences(fileName, () => openPanorama(bytes, fileName));
    const hash = contentHash(bytes);
    this.files.set(hash, { ...this.files.get(hash), bytes });
    return { hash, format: pictureFormat(bytes)!, fileName: fileName.slice(0, 200) };
  }

  /** A file that came with a scene, by what it is. @throws FileError for a file that cannot be read */
  async takeIn(bytes: Uint8Array, fileName: string): Promise<void> {
    const format = pictureFormat(bytes);
    if (format === 'hdr') await this.bringInPanorama(bytes, fileName);
    else if (format && isLarge(bytes)) this.keep(bytes);
    else if (format) await this.bringInPicture(bytes, fileName);
    else await this.bringIn(bytes, fileName);
  }

  /** A picture for a height field, a mask or a material. @throws FileError for a file that cannot be read */
  async bringInPicture(
    bytes: Uint8Array,
    fileName: string,
  ): Promise<{ hash: string; format: PictureRef['format']; width: number; height: number }> {
    const picture = await inSentences(fileName, () => readPicture(bytes, fileName));
    const hash = contentHash(bytes);
    this.files.set(hash, { bytes, picture });
    return { hash, format: isJpeg(bytes) ? 'jpeg' : 'png', width: picture.width, height: picture.height };
  }
}
