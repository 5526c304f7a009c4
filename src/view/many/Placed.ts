import type { Group } from 'three';
import type { Arrangement } from '@/core/arrange/registry';
import type { Material } from '@/core/mesh/materialSchema';
import type { Prop } from '@/core/mesh/propSchema';
import { wornAmong, type WornBy } from '@/core/scene/worn';
import type { ServedArrangement } from '@/engine/served';
import type { ShownAs } from '@/store/commands/nodes';
import { dimmed } from '../dimmed';
import { drawnWardrobe, inMaterial } from '../dressing';
import { shapedMesh, type DrawnMesh } from '../sceneMeshes';
import { unseen } from '../stamps/unseen';
import { DrawnBatch } from './DrawnBatch';
import { FEW, Pools } from './Pools';

/** What all placed props are drawn by, besides their own results. */
export interface Look {
  props: readonly Prop[];
  materials: readonly Material[];
  /** Of each prop whose mesh is there. */
  meshes: ReadonlyMap<string, DrawnMesh>;
  /** Arrangements of the bundle that is open: all others are dimmed. */
  opened: ReadonlySet<string> | null;
  /** Whether sheets are coloured by distortion. */
  distortion: boolean;
}

/** A batch that is drawn by itself. */
interface Alone {
  batch: DrawnBatch;
  as: ShownAs;
  laid: boolean;
}

/** An arrangement as it was drawn last. */
interface Shown {
  a: Arrangement;
  result: ServedArrangement;
  /** Of its batches in their order; absent where a mesh was not there. */
  meshes: (DrawnMesh | undefined)[];
  keys: ReadonlySet<string>;
}

/** The batches of all arrangements; among a thousand only those of what has changed are looked at again. */
export class Placed {
  readonly alone = new Map<string, Alone>();
  readonly pools: Pools;
  private shown = new Map<string, Shown>();
  private last: readonly unknown[] = [];

  constructor(private group: Group) {
    this.pools = new Pools(group);
  }

  /** @param redraw called when a picture that something wears is there */
  show(
    arrangements: readonly Arrangement[],
    results: ReadonlyMap<string, ServedArrangement>,
    look: Look,
    redraw: () => void,
  ): void {
    const { props, materials, opened, distortion } = look;
    const from = drawnWardrobe(materials);
    // A picture that is not there yet may be so at any time.
    const bare = materials.some(({ picture }) => picture && !from.picture(picture.hash));
    // What one wears may be given by another that it is placed within.
    const wearing = JSON.stringify(arrangements.flatMap(({ id, material: m }) => (m ? [id, m] : [])));
    const now = [props, materials, opened, distortion, wearing];
    const anew = bare || now.some((v, i) => v !== this.last[i]);
    this.last = now;
    const given = { look, from, redraw, worn: wornAmong(arrangements), byId: byId(props) };
    const gone = new Set(this.shown.keys());
    for (const a of arrangements) {
      const result = a.visible ? results.get(a.id) : undefined;
      if (!result) continue;
      gone.delete(a.id);
      const had = this.shown.get(a.id);
      const same = !anew && had?.a === a && had.result === result;
      if (same && result.batches.every(({ prop }, i) => had.meshes[i] === look.meshes.get(prop))) continue;
      const keys = new Set<string>();
      for (const batch of result.batches) this.draw(a, result, batch, given, keys);
      for (const key of had?.keys ?? []) if (!keys.has(key)) this.drop(key);
      const meshes = result.batches.map(({ prop }) => look.meshes.get(prop));
      this.shown.set(a.id, { a, result, meshes, keys });
    }
    for (const id of gone) {
      for (const key of this.shown.get(id)!.keys) this.drop(key);
      this.shown.delete(id);
    }
  }

  private draw(
    a: Arrangement,
    result: ServedArrangement,
    batch: ServedArrangement['batches'][number],
    { look, from, redraw, worn, byId }: Given,
    keys: Set<string>,
  ): void {
    const [own, prop] = [look.meshes.get(batch.prop), byId.get(batch.prop)];
    if (!own || !prop) return;
    const material = worn(prop, [a.id, ...(batch.of ?? [])]);
    const plain = inMaterial(own, material, from, prop.glow, redraw);
    const drawn = shapedMesh(plain, result, batch);
    const shaped =
      (batch.shape === undefined ? '' : ` ${batch.shape}`) +
      (batch.pose === undefined ? '' : ` pose ${batch.pose}`);
    const within = batch.of ? ` within ${batch.of.join('/')}` : '';
    const { laid = false } = batch;
    const key = `${a.id} ${batch.prop}${batch.mirrored ? ' mirrored' : ''}${shaped}${within}${laid ? ' laid' : ''}`;
    const as = a.shownAs ?? 'full';
    const dim = look.opened !== null && !look.opened.has(a.id);
    const drawing = {
      arrangement: a.id,
      result,
      batch,
      drawn: laid ? unseen(drawn) : dim ? dimmed(drawn) : drawn,
      distortion: look.distortion,
    };
    keys.add(key);
    const few = !dim && !laid && batch.rows.length <= FEW && shaped === '' && as === 'full';
    if (few && !(look.distortion && result.sheet)) {
      this.letGo(key);
      this.pools.put(key, drawing);
      return;
    }
    this.pools.remove(key);
    let shown = this.alone.get(key);
    if (!shown) this.alone.set(key, (shown = { batch: new DrawnBatch(this.group), as, laid }));
    shown.batch.draw(drawing);
    shown.as = as;
  }

  private letGo(key: string): void {
    this.alone.get(key)?.batch.dispose();
    this.alone.delete(key);
  }

  private drop(key: string): void {
    this.letGo(key);
    this.pools.remove(key);
  }
}

/** What one drawing of all has in common. */
interface Given {
  look: Look;
  from: ReturnType<typeof drawnWardrobe>;
  redraw: () => void;
  worn: WornBy;
  byId: ReadonlyMap<string, Prop>;
}

const byId = (props: readonly Prop[]): ReadonlyMap<string, Prop> => new Map(props.map((p) => [p.id, p]));
