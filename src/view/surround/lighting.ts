import { Vector3, type LightProbe } from 'three';
import { turned } from '@/core/light/panorama';
import type { Vec3 } from '@/core/math/vec3';
import { halton } from '../develop/samples';
import { sceneLight } from '../light';
import { harmonicsAtTurn, panoramaOf, type LitPanorama } from './panoramas';
import { WHITE_LIGHT } from './sky';

/** The light of a panorama, where it stands for that of the sky. */

interface Around {
  panorama: LitPanorama;
  turn: number;
  /** Times the panorama's own light. */
  by: number;
}

/** The panorama that gives the light of the sky; null: the sky does. */
function lighting(): Around | null {
  const { surround } = sceneLight();
  if (surround.by !== 'panorama' || !surround.lights) return null;
  const panorama = panoramaOf(surround.panorama?.hash);
  const turn = (surround.turnDeg * Math.PI) / 180;
  return panorama && { panorama, turn, by: surround.brightness * WHITE_LIGHT };
}

/** Lets a probe give the light of the panorama at once, without shadows. @returns whether there is one that does */
export function light(probe: LightProbe): boolean {
  const around = lighting();
  if (around) {
    const values = harmonicsAtTurn(around.panorama, around.turn);
    probe.sh.coefficients.forEach((c: Vector3, i: number) =>
      c.fromArray(values, i * 3).multiplyScalar(around.by),
    );
  }
  probe.intensity = around ? 1 : 0;
  return around !== null;
}

/**
 * Where the k-th of so many frames' light of the panorama comes from, and how much of it that is, so that the mean of all frames is
 * its light; null where the sky gives the light. @param of a power of two
 */
export function fromAround(k: number, of: number): { way: Vec3; light: Vec3 } | null {
  const around = lighting();
  if (!around) return null;
  const { way, light: drawn } = around.panorama.light.from(
    // Each part of its light once: what comes first is from the middle of the first.
    (k === 0 ? 0 : halton(k - 1, 2)) + 0.5 / of,
    halton(k, 3),
    halton(k, 5),
  );
  return { way: turned(way, around.turn), light: drawn.map((v) => v * around.by) as Vec3 };
}
