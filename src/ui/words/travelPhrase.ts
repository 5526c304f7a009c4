import { travelMoves, type Travel } from '@/core/arrange/travel/schema';
import type { Scene } from '@/core/scene/schema';
import { metres } from '@/words/numbers';

/** The step Travel, closed: "Over Water, 0.5 m/s". */
export function travelPhrase(travel: Travel, scene: Scene): string {
  if (!travel.on) return 'Stays';
  const { way, u, v, along, turn } = travel;
  const nameIn = (list: readonly { id: string; name: string }[], id: string | null) =>
    list.find((n) => n.id === id)?.name;
  const where =
    way === 'turn'
      ? 'Turns'
      : way === 'over'
        ? `Over ${nameIn(scene.surfaces, travel.surface) ?? 'nothing'}`
        : `Along ${nameIn(scene.paths, travel.path) ?? 'nothing'}`;
  if (!travelMoves(travel)) return `${where}, by hand`;
  const degrees = `${Number(turn.speed.toFixed(1))}°`;
  const length = way === 'along' ? along.speed : Math.hypot(u.speed, v.speed);
  return `${where}, ${way === 'turn' ? degrees : metres(length, scene.units)}/s`;
}
