import { LIGHT } from '../../math/color';
import { cos, sin } from '../../math/portable';
import { channel, random01 } from '../../math/random';
import { buildBvh, type Bvh } from '../bvh';
import { firstHit, noHit } from '../bvhQuery';
import type { GreyPicture } from '../make/picture';
import type { MaterialMap } from '../material';
import { stampedAt, unstamped } from '../stamp/drawn';
import type { StampLayers } from '../stamp/layers';
import type { StampMaps } from '../stamp/maps';
import type { TriMesh } from '../triMesh';
import type { BakeSettings } from './bakeSchema';
import { tangentsOf } from './tangents';
import { eachTexel, goOn } from './texels';
import type { Things } from './things';

/** A picture that is moved, turned and sized on the texture coordinates. */
interface LaidPicture extends GreyPicture {
  transform?: MaterialMap['transform'];
}

/** A surface with all that lies on it, to be looked at. */
export interface BakeJob {
  surface: TriMesh & { uvs: Float32Array };
  /** Linear red, green, blue of the surface itself at the corners of its faces, three numbers a corner. */
  own: Float32Array;
  /** The pictures that its material has, as they lie on its texture coordinates. */
  picture?: LaidPicture | undefined;
  relief?: LaidPicture | undefined;
  things: Things;
  stamps?: { layers: StampLayers; maps: readonly StampMaps[]; owner: (stamp: number) => number } | undefined;
}

/** Maps in the texture coordinates of a surface, upper row first; those that were asked for. */
export interface BakedPixels {
  size: number;
  /** Tangent space, green up the picture: red, green, blue. */
  normal?: Uint8Array;
  /** Metres over the surface. */
  height?: Float32Array;
  /** 255: all light comes there. */
  occlusion?: Uint8Array;
  /** Linear red, green, blue. */
  color?: Float32Array;
  /** The number of the prop that is uppermost; 0: none. */
  props?: Uint16Array;
  /** Pixels that faces cover, of all; and places that more than one does: what lies there is baked once. */
  covered: number;
  twice: number;
  /** Faces that reach beyond 0 to 1 of the texture coordinates, where no map is. */
  beyond: number;
}

/** Rows that are worked on at once. */
const BAND = 32;
/** Bytes a pixel that each map is held in, and what all of them need together. */
const BYTES = { normal: 3, height: 4, occlusion: 1, color: 12, props: 2 };
const BESIDE = 3;
/** More than so much memory is not asked for. */
export const MOST_BYTES = 1.5e9;

/** Bytes that maps take while they are made. */
export const bakeBytes = ({ size, maps }: Pick<BakeSettings, 'size' | 'maps'>): number =>
  size * size * maps.reduce((sum, m) => sum + BYTES[m], BESIDE);

const SHADE = channel('occlusion');

/**
 * Looks down on a surface at each pixel of its texture, from as far as it reaches off it, and keeps what it meets first:
 * its normal in the tangent space of MikkTSpace, how high it is, how much light comes there, its colour,
 * whose it is. Stamps lie over the surface, and things over stamps. A unit of work is a band of rows.
 * @throws Error before the library for tangents is loaded
 */
export function* baking(job: BakeJob, settings: BakeSettings): Generator<number, BakedPixels> {
  const { surface, things, own } = job;
  const { size, within, reach, maps } = settings;
  const { positions: p, normals: m, indices, uvs } = surface;
  const wants = new Set(maps);
  const pixels = size * size;
  const out: BakedPixels = {
    size,
    ...(wants.has('normal') && { normal: new Uint8Array(pixels * 3) }),
    ...(wants.has('height') && { height: new Float32Array(pixels) }),
    ...(wants.has('occlusion') && { occlusion: new Uint8Array(pixels) }),
    ...(wants.has('color') && { color: new Float32Array(pixels * 3) }),
    ...(wants.has('props') && { props: new Uint16Array(pixels) }),
    covered: 0,
    twice: 0,
    beyond: facesBeyond(surface),
  };
  const tangents = wants.has('normal') ? tangentsOf(surface) : null;
  const covered = new Uint8Array(pixels);
  const n = size * within;
  const taken = new Uint8Array(n * BAND * within);
  // Of each pixel of a band: how many places, normal, height, occlusion, colour.
  const sums = new Float64Array(size * BAND * 9);
  const all = wants.has('occlusion') ? treeOfBoth(surface, things) : null;
  const look = lookDown(job, settings, tangents !== null, wants.has('occlusion'));
  for (let from = 0; from < size; from += BAND) {
    const to = Math.min(size, from + BAND);
    taken.fill(0);
    sums.fill(0);
    out.twice += eachTexel({ uvs, indices }, n, [from * within, to * within], taken, (x, y, face, b, c) => {
      look.at(face, b, c, (x + 0.5) / n, (y + 0.5) / n, y * n + x);
      const [i, j] = [Math.floor(x / within), Math.floor(y / within)];
      const o = ((j - from) * size + i) * 9;
      sums[o]++;
      for (let k = 0; k < 8; k++) sums[o + 1 + k] += look.seen[k];
      if (out.props) out.props[j * size + i] = look.owner;
    });
    for (let q = 0; q < (to - from) * size; q++) {
      const count = sums[q * 9];
      if (count === 0) continue;
      const at = from * size + q;
      covered[at] = 1;
      out.covered++;
      const [, x, y, z, h, light, red, green, blue] = sums.subarray(q * 9, q * 9 + 9);
      if (out.normal) {
        const l = Math.sqrt(x * x + y * y + z * z) || 1;
        [x, y, z].forEach((v, k) => (out.normal![at * 3 + k] = Math.round(127.5 * (v / l) + 127.5)));
      }
      if (out.height) out.height[at] = h / count;
      if (out.occlusion) out.occlusion[at] = Math.round((255 * light) / count);
      if (out.color) [red, green, blue].forEach((v, k) => (out.color![at * 3 + k] = v / count));
    }
    yield to / size;
  }
  for (const [map, channels] of [
    ['normal', 3],
    ['height', 1],
    ['occlusion', 1],
    ['color', 3],
  ] as const) {
    const made = out[map];
    if (!made) continue;
    // Beyond all islands nothing is raised, and nothing is dark.
    if (map === 'normal') fill(made, covered, [128, 128, 255]);
    if (map === 'occlusion') fill(made, covered, [255]);
    goOn(made, channels, size, covered.slice(), settings.margin);
    yield 1;
  }
  return out;

  function fill(made: Uint8Array | Float32Array, where: Uint8Array, with_: readonly number[]): void {
    for (let q = 0; q < pixels; q++) if (!where[q]) made.set(with_, q * with_.length);
  }

  /** What is seen at a place of a face: written to `seen` as normal, height, light and colour. */
  function lookDown(
    { stamps, picture, relief }: BakeJob,
    { rays, shade }: BakeSettings,
    turns: boolean,
    lit: boolean,
  ) {
    const hit = noHit();
    const [place, normal, tangent, bitangent, now] = [0, 1, 2, 3, 4].map(() => new Float64Array(3));
    const stamped = unstamped();
    const result = { seen: new Float64Array(8), owner: 0, at };
    return result;

    function at(face: number, b: number, c: number, u: number, v: number, number: number): void {
      const a = 1 - b - c;
      const [i, j, k] = [indices[face * 3] * 3, indices[face * 3 + 1] * 3, indices[face * 3 + 2] * 3];
      for (let r = 0; r < 3; r++) {
        place[r] = a * p[i + r] + b * p[j + r] + c * p[k + r];
        normal[r] = a * m[i + r] + b * m[j + r] + c * m[k + r];
      }
      const long = Math.sqrt(normal[0] * normal[0] + normal[1] * normal[1] + normal[2] * normal[2]) || 1;
      const { seen } = result;
      let height = 0;
      result.owner = 0;
      for (let r = 0; r < 3; r++) {
        const o = face * 9 + r;
        seen[5 + r] = a * own[o] + b * own[o + 3] + c * own[o + 6];
        now[r] = normal[r] / long;
      }
      if (picture?.colours) tinted(picture, u, v, seen);
      if (turns) {
        const t = tangents!;
        const o = face * 12;
        for (let r = 0; r < 3; r++) tangent[r] = a * t[o + r] + b * t[o + 4 + r] + c * t[o + 8 + r];
        const side = t[o + 3];
        for (let r = 0; r < 3; r++) {
          const [s, w] = [(r + 1) % 3, (r + 2) % 3];
          bitangent[r] = side * (normal[s] * tangent[w] - normal[w] * tangent[s]);
        }
        if (relief?.colours) raised(relief, u, v, now);
      }
      const d = [-normal[0] / long, -normal[1] / long, -normal[2] / long];
      const { tree, normals, colors, indices: of, owner } = things;
      const o = place.map((v0, r) => v0 - d[r] * reach);
      const met = firstHit(tree, o[0], o[1], o[2], d[0], d[1], d[2], 0, reach, hit);
      // What is below the surface is hidden by it.
      if (met) {
        height = reach - hit.t;
        result.owner = owner[hit.face];
        const [x, y, z] = [of[hit.face * 3] * 3, of[hit.face * 3 + 1] * 3, of[hit.face * 3 + 2] * 3];
        const w = 1 - hit.u - hit.v;
        for (let r = 0; r < 3; r++) {
          now[r] = w * normals[x + r] + hit.u * normals[y + r] + hit.v * normals[z + r];
          seen[5 + r] = w * colors[x + r] + hit.u * colors[y + r] + hit.v * colors[z + r];
        }
      } else if (stamps) {
        stampedAt(stamps.layers, stamps.maps, u, v, stamped);
        height = stamped.height;
        if (stamped.top >= 0) result.owner = stamps.owner(stamped.top);
        for (let r = 0; r < 3; r++) seen[5 + r] = seen[5 + r] * (1 - stamped.cover) + stamped.color[r];
        if (stamped.slope[0] !== 0 || stamped.slope[1] !== 0) tilt(face, stamped.slope, now);
      }
      seen[3] = height;
      seen[4] = lit ? lightAt(height, number) : 1;
      if (turns) inTangentSpace(seen);
    }

    /** The weights of tangent, bitangent and normal, as they are between the corners, that make up the normal that is seen. */
    function inTangentSpace(to: Float64Array): void {
      const [t, q, s] = [tangent, bitangent, normal];
      const det = triple(t, q, s);
      if (Math.abs(det) < 1e-12) return void ([to[0], to[1], to[2]] = [0, 0, 1]);
      const [x, y, z] = [triple(now, q, s) / det, triple(t, now, s) / det, triple(t, q, now) / det];
      const l = Math.sqrt(x * x + y * y + z * z) || 1;
      [to[0], to[1], to[2]] = [x / l, y / l, z / l];
    }

    /** Leans a normal as what rises by so much along u and v. */
    function tilt(face: number, [du, dv]: readonly number[], to: Float64Array): void {
      const [i, j, k] = [indices[face * 3], indices[face * 3 + 1], indices[face * 3 + 2]];
      const [e, f] = [
        [0, 0, 0],
        [0, 0, 0],
      ];
      for (let r = 0; r < 3; r++) {
        e[r] = p[j * 3 + r] - p[i * 3 + r];
        f[r] = p[k * 3 + r] - p[i * 3 + r];
      }
      const rise = (q: number) => du * (uvs[q * 2] - uvs[i * 2]) + dv * (uvs[q * 2 + 1] - uvs[i * 2 + 1]);
      const [x, y] = [rise(j), rise(k)];
      const [ee, ff, ef] = [dot(e, e), dot(f, f), dot(e, f)];
      const area = ee * ff - ef * ef;
      const [s, t] = [(ff * x - ef * y) / area, (ee * y - ef * x) / area];
      for (let r = 0; r < 3; r++) to[r] -= s * e[r] + t * f[r];
      const l = Math.sqrt(dot(to, to)) || 1;
      for (let r = 0; r < 3; r++) to[r] /= l;
    }

    /** The share of rays, more of them the straighter up, that meet nothing near. */
    function lightAt(height: number, number: number): number {
      const [nx, ny, nz] = now;
      const up = Math.sqrt(dot(normal, normal)) || 1;
      const off = height + 1e-4 * reach;
      const [ox, oy, oz] = [0, 1, 2].map((r) => place[r] + (normal[r] / up) * off + now[r] * 1e-3 * reach);
      // Two ways square to the normal (Duff and others 2017).
      const sign = nz >= 0 ? 1 : -1;
      const [g, h] = [-1 / (sign + nz), (nx * ny * -1) / (sign + nz)];
      const [aside, about] = [random01(1, number, SHADE), random01(2, number, SHADE)];
      let free = 0;
      for (let k = 0; k < rays; k++) {
        // In as many rings and turns as there are rays, each a little elsewhere.
        const square = (k + aside) / rays;
        const turn = 2 * Math.PI * (k * 0.6180339887498949 + about);
        const r = Math.sqrt(square);
        const [x, y, z] = [r * cos(turn), r * sin(turn), Math.sqrt(1 - square)];
        const dx = x * (1 + sign * nx * nx * g) + y * h + z * nx;
        const dy = x * sign * h + y * (sign + ny * ny * g) + z * ny;
        const dz = x * -sign * nx + y * -ny + z * nz;
        if (!firstHit(all!, ox, oy, oz, dx, dy, dz, 0, shade, hit, true)) free++;
      }
      return free / rays;
    }

    /** Takes the relief that the surface has already. */
    function raised(map: LaidPicture, u: number, v: number, to: Float64Array): void {
      const at0 = texel(map, u, v);
      const [x, y, z] = [0, 1, 2].map((k) => map.colours![at0 + k] / 127.5 - 1);
      for (let r = 0; r < 3; r++) to[r] = x * tangent[r] + y * bitangent[r] + z * normal[r];
      const l = Math.sqrt(dot(to, to)) || 1;
      for (let r = 0; r < 3; r++) to[r] /= l;
    }
  }
}

/** A corner on the edge of the map may lie so far beyond it. */
const RIM = 1e-4;

function facesBeyond({ uvs, indices }: { uvs: Float32Array; indices: Uint32Array }): number {
  const outside = (t: number) => t < -RIM || t > 1 + RIM;
  let count = 0;
  for (let f = 0; f < indices.length; f += 3)
    if ([0, 1, 2].some((k) => outside(uvs[indices[f + k] * 2]) || outside(uvs[indices[f + k] * 2 + 1])))
      count++;
  return count;
}

/** A tree of its own over a surface and all that lies on it: that of the surface goes with it while it moves. */
function treeOfBoth({ positions, indices }: TriMesh, { tree }: Things): Bvh {
  const both = new Float64Array(positions.length + tree.positions.length);
  both.set(positions);
  both.set(tree.positions, positions.length);
  const corners = new Uint32Array(indices.length + tree.indices.length);
  corners.set(indices);
  tree.indices.forEach((v, i) => (corners[indices.length + i] = v + positions.length / 3));
  return buildBvh(both, corners);
}

function tinted(map: LaidPicture, u: number, v: number, to: Float64Array): void {
  const at = texel(map, u, v);
  for (let k = 0; k < 3; k++) to[5 + k] *= LIGHT[map.colours![at + k]];
}

/** Where the colours of the pixel at u, v begin; beyond its edges a picture is repeated. */
function texel({ width, height, transform }: LaidPicture, u: number, v: number): number {
  if (transform) {
    const { offset, rotation, scale } = transform;
    const [c, s] = [cos(rotation), sin(rotation)];
    const [x, y] = [u * scale[0], v * scale[1]];
    [u, v] = [c * x + s * y + offset[0], c * y - s * x + offset[1]];
  }
  const wrapped = (t: number, n: number) => Math.min(n - 1, Math.floor((t - Math.floor(t)) * n));
  return (wrapped(v, height) * width + wrapped(u, width)) * 4;
}

const dot = (a: ArrayLike<number>, b: ArrayLike<number>): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

const triple = (a: ArrayLike<number>, b: ArrayLike<number>, c: ArrayLike<number>): number =>
  a[0] * (b[1] * c[2] - b[2] * c[1]) +
  a[1] * (b[2] * c[0] - b[0] * c[2]) +
  a[2] * (b[0] * c[1] - b[1] * c[0]);
