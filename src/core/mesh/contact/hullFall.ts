import type { Vec3 } from '../../math/vec3';
import type { Bvh } from '../bvh';
import type { Holds } from './holds';
import type { Hull } from './hull';
import { GRAZE, type Meeting } from './overlap';
import { EDGE, Patch } from './patch';
import { PosedHull } from './posedHull';

/** A patch for more than one pose reaches this much (as a share of the thing's width) beyond it, for tilts to come. */
const BEYOND = 0.15;

/** More than these are not listed of what meets soon. */
const MOST = 64;

/** What of a hull meets: a point of it a face, an edge an edge, a side a corner. */
type Kind = Meeting['kind'];
const KEYS: Record<Kind, number> = { 'corner-face': 0, sides: 1, 'face-corner': 2 };
const MOST_CORNERS = 1 << 12;
const MOST_POINTS = 1 << 16;

/**
 * How far a thing falls, asked of its convex hull and of the faces about it alone. A face that one plane of the hull
 * is higher over than something met already is passed by; for the few that are left all points, edges and sides are
 * held against its corners, edges and itself. What meets first is where the thing itself is met, if the thing has it
 * (a {@link Hull} knows) and it is more than grazed. Everything else is left to the walk through all triangles.
 */
export class HullFall {
  private patch = new Patch();
  private posed = new PosedHull();
  private isGathered = false;
  /** Counts patches, round. */
  private gathered = 0;
  private hasRoom = false;
  private wide = new Float64Array(4);
  /** By face of the patch: no less room than this is over it. */
  private least = new Float64Array(0);
  /** By edge and by corner of the patch: the last search that looked at it. */
  private edgeSeen = new Int32Array(0);
  private cornerSeen = new Int32Array(0);
  private search = 0;
  private best = Infinity;
  /** What leaves more room than this is not looked for. */
  private most = Infinity;
  private near = 0;
  /** What met first: what of the hull, what of the patch; and whether that can be told for sure. */
  private kind: Kind | null = null;
  private own = -1;
  private theirs = -1;
  private isSure = false;
  /** What met soon after it, and surely. */
  private listed = 0;
  private kinds: Kind[] = [];
  private owns = new Int32Array(MOST);
  private others = new Int32Array(MOST);
  private rooms = new Float64Array(MOST);

  constructor(private grounds: readonly Bvh[]) {}

  /** Forgets what was gathered: the place or the frame is another. */
  moved(): void {
    this.isGathered = false;
  }

  /**
   * @param pose rows of the matrix from the thing's own space to the frame of the fall @param atMost a room that is
   * known to be too much @param near what leaves more room than the least, by less than this share of the thing's
   * width, is listed too @returns metres as {@link Fall.room} has them; NaN where the hull alone cannot tell
   */
  room(
    hull: Hull,
    pose: Float64Array,
    frame: Float64Array,
    foot: Vec3,
    atMost: number,
    near: number,
  ): number {
    this.posed.turn(hull, pose);
    if (!this.gatheredAbout(frame, foot, this.isGathered ? BEYOND : 0)) return NaN;
    // What is above it may be a roof.
    if (this.patch.overhead >= this.posed.top) return NaN;
    const { wide } = this.posed;
    this.near = near * Math.max(wide[1] - wide[0], wide[3] - wide[2]);
    this.find(atMost);
    if (!this.kind && atMost < Infinity) this.find(Infinity);
    if (!this.kind || !this.isSure) return NaN;
    return this.best >= 0 || this.risesOut(hull, pose) ? this.best : NaN;
  }

  /** Takes up what held the thing in the answer before, and what was listed. */
  list(hull: Hull, holds: Holds): void {
    this.hold(hull, holds, this.kind!, this.own, this.theirs);
    for (let n = 0; n < this.listed; n++)
      if (this.rooms[n] < this.most) this.hold(hull, holds, this.kinds[n], this.owns[n], this.others[n]);
  }

  private hold({ points, faces, edges }: Hull, holds: Holds, kind: Kind, own: number, theirs: number): void {
    const { corners } = this.patch;
    const key = ((this.gathered * 3 + KEYS[kind]) * MOST_CORNERS + theirs) * MOST_POINTS + own;
    if (holds.has(key)) return;
    if (kind === 'corner-face') {
      for (let a = 0; a < 3; a++) mine[a] = points[own * 3 + a];
      holds.add(kind, mine, corners, theirs * 9, key);
    } else if (kind === 'face-corner') {
      for (let k = 0; k < 3; k++)
        for (let a = 0; a < 3; a++) mine[k * 3 + a] = points[faces[own * 3 + k] * 3 + a];
      holds.add(kind, mine, corners, theirs * 3, key);
    } else {
      const next = theirs % 3 === 2 ? theirs - 2 : theirs + 1;
      for (let a = 0; a < 3; a++) {
        mine[a] = points[edges[own * 2] * 3 + a];
        mine[a + 3] = points[edges[own * 2 + 1] * 3 + a];
        side[a] = corners[theirs * 3 + a];
        side[a + 3] = corners[next * 3 + a];
      }
      holds.add(kind, mine, side, 0, key);
    }
  }

  /** Gathers the faces about a thing as it is posed, and some beyond, for tilts to come. */
  gather(hull: Hull, pose: Float64Array, frame: Float64Array, foot: Vec3): void {
    this.posed.turn(hull, pose);
    this.gatheredAbout(frame, foot, BEYOND);
  }

  /** The greatest height of the faces that were gathered, no more than `most`; NaN where there is something else. */
  height(x: number, y: number, most: number): number {
    const { reach } = this.patch;
    if (!this.isGathered || !this.hasRoom) return NaN;
    if (x < reach[0] || x > reach[1] || y < reach[2] || y > reach[3]) return NaN;
    return this.patch.height(x, y, most);
  }

  private gatheredAbout(frame: Float64Array, foot: Vec3, beyond: number): boolean {
    const { patch, wide } = this;
    const { reach } = patch;
    const w = this.posed.wide;
    if (this.isGathered && w[0] >= reach[0] && w[1] <= reach[1] && w[2] >= reach[2] && w[3] <= reach[3])
      return this.hasRoom;
    const dx = (w[1] - w[0]) * beyond;
    const dy = (w[3] - w[2]) * beyond;
    wide[0] = w[0] - dx;
    wide[1] = w[1] + dx;
    wide[2] = w[2] - dy;
    wide[3] = w[3] + dy;
    this.isGathered = true;
    this.gathered = (this.gathered + 1) & 0xfffff;
    this.hasRoom = patch.gather(this.grounds, frame, foot, wide);
    if (this.least.length < patch.faces) {
      this.least = new Float64Array(patch.faces * 2);
      this.edgeSeen = new Int32Array(patch.faces * 6);
      this.cornerSeen = new Int32Array(patch.faces * 6);
    }
    return this.hasRoom;
  }

  /** Goes through the faces, those with the least bound first, for as long as one may have less room than found. */
  private find(atMost: number): void {
    const { patch, posed, least } = this;
    this.best = atMost;
    this.most = atMost + this.near;
    this.kind = null;
    this.listed = 0;
    this.search++;
    for (let f = 0; f < patch.faces; f++) {
      least[f] = posed.over(patch, f);
      if (patch.isFlat[f] === 1) this.lowest(f);
    }
    posed.listBelow(patch.top + this.most);
    for (;;) {
      let next = -1;
      let low = this.most;
      for (let f = 0; f < patch.faces; f++) if (least[f] < low) low = least[(next = f)];
      if (next < 0) return;
      least[next] = Infinity;
      this.onFace(next);
    }
  }

  /** The lowest point over a face: it is not often what meets first, but seldom far from it. */
  private lowest(f: number): void {
    const { planes, boxes } = this.patch;
    const { x, y, z, lowest: i } = this.posed;
    if (x[i] < boxes[f * 4] || x[i] > boxes[f * 4 + 1] || y[i] < boxes[f * 4 + 2] || y[i] > boxes[f * 4 + 3])
      return;
    const room = z[i] - planes[f * 3] * x[i] - planes[f * 3 + 1] * y[i] - planes[f * 3 + 2];
    if (room < this.best) this.point(i, f, room);
  }

  private onFace(f: number): void {
    const { patch, posed } = this;
    const isFlat = patch.isFlat[f] === 1;
    // The plane of the face without an end is met no sooner by anything than by a point.
    if (isFlat && this.points(f) >= this.most) return;
    const { corners: c, edge, vertex } = patch;
    for (let k = 0; k < 3; k++) {
      const o = f * 9 + k * 3;
      const w = k === 2 ? f * 9 : o + 3;
      const from = posed.lowPlane(c[o], c[o + 1]) - c[o + 2];
      const to = posed.lowPlane(c[w], c[w + 1]) - c[w + 2];
      // Its neighbours have them too: once is enough.
      const e = edge[f * 3 + k];
      if ((from < this.most || to < this.most) && this.edgeSeen[e] !== this.search) {
        this.edgeSeen[e] = this.search;
        // Over a valley the room is least at its ends.
        if (patch.edgeKind(e) !== EDGE.valley) this.edge(o, w);
      }
      const v = vertex[f * 3 + k];
      if (from < this.most && isFlat && this.cornerSeen[v] !== this.search) {
        this.cornerSeen[v] = this.search;
        this.corner(f * 3 + k);
      }
    }
  }

  /** The points of the hull over a face. @returns the least room that any has over its plane */
  private points(f: number): number {
    const { boxes, planes } = this.patch;
    const { points, point, places } = this.posed.low;
    const a = planes[f * 3];
    const b = planes[f * 3 + 1];
    const h = planes[f * 3 + 2];
    const x0 = boxes[f * 4];
    const x1 = boxes[f * 4 + 1];
    const y0 = boxes[f * 4 + 2];
    const y1 = boxes[f * 4 + 3];
    let least = Infinity;
    for (let n = 0; n < points; n++) {
      const px = places[n * 3];
      const py = places[n * 3 + 1];
      const room = places[n * 3 + 2] - a * px - b * py - h;
      if (room < least) least = room;
      if (px < x0 || px > x1 || py < y0 || py > y1 || room >= this.most) continue;
      this.point(point[n], f, room);
    }
    return least;
  }

  /** A point that is nearer to the plane of a face than what was met before, if it is over the face. */
  private point(i: number, f: number, room: number): void {
    const c = this.patch.corners;
    const px = this.posed.x[i];
    const py = this.posed.y[i];
    let isSure = true;
    let left = false;
    let right = false;
    for (let k = 0; k < 3; k++) {
      const o = f * 9 + k * 3;
      const w = k === 2 ? f * 9 : o + 3;
      const ux = c[w] - c[o];
      const uy = c[w + 1] - c[o + 1];
      const side = ux * (py - c[o + 1]) - uy * (px - c[o]);
      if (side > 0) left = true;
      else if (side < 0) right = true;
      if (
        side * side < GRAZE * GRAZE * (ux * ux + uy * uy) &&
        this.patch.edgeKind(this.patch.edge[f * 3 + k]) === EDGE.outline
      )
        isSure = false;
    }
    if (!left || !right) this.took('corner-face', i, f, room, isSure);
  }

  /** The edges of the hull that look down over an edge of the ground. */
  private edge(o: number, w: number): void {
    const { posed } = this;
    const c = this.patch.corners;
    const gx = c[o];
    const gy = c[o + 1];
    const gh = c[o + 2];
    const vx = c[w] - gx;
    const vy = c[w + 1] - gy;
    const vh = c[w + 2] - gh;
    const v = vx * vx + vy * vy;
    const { edges, edge, ends } = posed.low;
    for (let n = 0; n < edges * 6; n += 6) {
      // To both hands of the ground's edge, or it is not crossed.
      const px = ends[n];
      const py = ends[n + 1];
      const qx = ends[n + 3];
      const qy = ends[n + 4];
      const ofP = vx * (py - gy) - vy * (px - gx);
      const ofQ = vx * (qy - gy) - vy * (qx - gx);
      if (ofP > 0 ? ofQ > 0 : ofQ <= 0) continue;
      const s = ofP / (ofP - ofQ);
      const t = ((px + (qx - px) * s - gx) * vx + (py + (qy - py) * s - gy) * vy) / v;
      if (!(t >= 0 && t <= 1)) continue;
      const room = ends[n + 2] + (ends[n + 5] - ends[n + 2]) * s - gh - vh * t;
      if (room >= this.most) continue;
      const u = (qx - px) * (qx - px) + (qy - py) * (qy - py);
      const endS = Math.min(s, 1 - s);
      const endT = Math.min(t, 1 - t);
      const isGrazed =
        endS * endS * u < GRAZE * GRAZE ||
        endT * endT * v < GRAZE * GRAZE ||
        (ofP - ofQ) * (ofP - ofQ) < 1e-12 * u * v;
      const e = edge[n / 6];
      this.took('sides', e, o / 3, room, posed.hull!.isEdgeReal[e] === 1 && !isGrazed);
    }
  }

  /** A corner of the ground under the hull, which is as low there as the highest of its planes that look down. */
  private corner(k: number): void {
    const { posed } = this;
    const hull = posed.hull!;
    const c = this.patch.corners;
    const gx = c[k * 3];
    const gy = c[k * 3 + 1];
    const { wide } = posed;
    if (gx < wide[0] || gx > wide[1] || gy < wide[2] || gy > wide[3]) return;
    const room = posed.under(gx, gy) - c[k * 3 + 2];
    if (room >= this.most) return;
    const face = posed.faceOver(gx, gy);
    if (face >= 0)
      this.took(
        'face-corner',
        face,
        k,
        room,
        hull.isSideReal[hull.sideOf[face]] === 1 && posed.inside > GRAZE,
      );
  }

  private took(kind: Kind, own: number, theirs: number, room: number, isSure: boolean): void {
    if (this.near > 0 && isSure && this.listed < MOST) {
      const n = this.listed++;
      this.kinds[n] = kind;
      this.owns[n] = own;
      this.others[n] = theirs;
      this.rooms[n] = room;
    }
    if (room >= this.best) return;
    this.best = room;
    this.most = room + this.near;
    this.kind = kind;
    this.own = own;
    this.theirs = theirs;
    this.isSure = isSure;
  }

  /** Whether the thing goes on above the ground where it reaches into it most: what holds it is no roof then. */
  private risesOut({ edges, faces, rises }: Hull, m: Float64Array): boolean {
    const { kind, own } = this;
    const i = kind === 'corner-face' ? own : kind === 'sides' ? edges[own * 2] : faces[own * 3];
    const height = m[6] * rises[i * 3] + m[7] * rises[i * 3 + 1] + m[8] * rises[i * 3 + 2];
    return height > this.posed.z[i] - this.best;
  }
}

const mine = new Float64Array(9);
const side = new Float64Array(6);
