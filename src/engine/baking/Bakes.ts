import { standingOn } from '@/core/evaluate/baking/standingOn';
import type { Evaluator } from '@/core/evaluate/scene';
import { FileError } from '@/core/formats/limits';
import { zipMaps } from '@/core/formats/mapsWrite';
import { pictureFormat, readPicture } from '@/core/formats/pictureRead';
import { bakedSchema, type BakeSettings } from '@/core/mesh/bake/bakeSchema';
import { wardrobe } from '@/core/mesh/dressed';
import type { Scene } from '@/core/scene/schema';
import type { EngineFiles } from '../files';
import { ready } from '../ready';
import { bake, whyNot, type BakedFiles } from './bake';

/** Maps that are baked one after the other: who asks anew takes the place of who asked before. */
export class Bakes {
  constructor(
    private evaluator: Evaluator,
    private files: EngineFiles,
  ) {}

  private asked = 0;

  /**
   * Bakes what some arrangements have put on a surface; null where another bake was asked for meanwhile.
   * @throws Error with one sentence where it cannot be: without texture coordinates, or for want of memory
   */
  async bake(
    scene: Scene,
    surface: string,
    settings: BakeSettings & { of: readonly string[] },
    time: number,
    progress?: (done: number, name: string) => void,
  ): Promise<BakedFiles | null> {
    const mine = ++this.asked;
    await ready(scene);
    this.evaluator.evaluate(scene, undefined, time);
    const named = this.evaluator.lookups.bakeJob(surface, settings.of, {
      stampMaps: (stamp) => this.files.stampMaps(stamp),
      wardrobe: wardrobe(scene.materials, (hash) => this.files.bytes(hash)),
      decode: ({ bytes }) => (pictureFormat(bytes) ? readPicture(bytes, 'a picture') : undefined),
    });
    const name = scene.surfaces.find((s) => s.id === surface)?.name ?? surface;
    const why = whyNot(named, name, settings);
    if (why !== null) throw new FileError(why);
    const made = await bake(
      named!,
      name,
      settings,
      () => this.asked === mine,
      (done) => progress?.(done, name),
    );
    for (const { bytes } of made?.maps ?? []) this.files.keep(bytes);
    return made;
  }

  /** The maps of a surface as a zip: as they are kept, or where there are none, baked now. */
  async maps(scene: Scene, id: string, time: number, progress?: (done: number, name: string) => void) {
    const { baked } = scene.surfaces.find((s) => s.id === id) ?? {};
    const kept = Object.values(baked?.made ?? {}).flatMap((ref) => {
      const bytes = ref && this.files.bytes(ref.hash);
      return bytes ? [{ bytes, fileName: ref.fileName }] : [];
    });
    if (kept.length > 0) return zipMaps(kept, []);
    const of = baked?.of ?? standingOn(scene, id);
    const made = await this.bake(scene, id, { ...(baked ?? bakedSchema.parse({})), of }, time, progress);
    if (!made) throw new FileError('Something else was baked meanwhile. Send the maps out again.');
    return zipMaps(made.maps, made.maps.some((m) => m.map === 'props') ? made.names : []);
  }
}
