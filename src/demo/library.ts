import type { Mesh } from '@/core/mesh/mesh';
import type { Motion } from '@/core/mesh/motion';
import type { Prop } from '@/core/mesh/propSchema';
import { snapPointsOf } from '@/core/mesh/snapPoints';
import * as ferry from './props/ferry';
import * as harbour from './props/harbour';
import * as growth from './props/headland';
import * as line from './props/line';
import * as people from './props/people';
import * as ropes from './props/ropes';
import * as store from './props/store';
import * as tiles from './props/tiles';
import * as boathouse from './surfaces/boathouse';
import * as head from './surfaces/headland';
import { farShore } from './surfaces/farShore';
import * as quay from './surfaces/quay';
import { tower } from './surfaces/tower';
import * as water from './surfaces/water';
import { COLORS } from './shape';

/** A mesh that ships with the application. */
export interface BuiltMesh {
  name: string;
  title: string;
  use: 'prop' | 'surface';
  /** Where the foot goes by default. */
  foot: 'base' | 'centre' | 'origin';
  /** It grows or lies any way round: where many are scattered each is turned by chance, until that is taken back. */
  anyTurn?: true;
  make: () => Mesh;
  /** The animations that it brings along. */
  motion?: () => Motion;
}

/** What a built-in mesh comes into a scene with: its foot, and the points that it brings, in the prop's own space. */
export function builtSettings(name: string): Pick<Prop, 'foot' | 'snapPoints'> {
  const foot = { at: builtEntry(name)!.foot };
  const lies = { unitScale: 1, foot, front: '+z', up: '+y' } as const;
  return { foot, snapPoints: snapPointsOf(builtMesh(name)!, lies) };
}

const prop = (
  name: string,
  title: string,
  make: () => Mesh,
  foot: BuiltMesh['foot'] = 'base',
): BuiltMesh => ({
  name,
  title,
  use: 'prop',
  foot,
  make,
});

/** All built-in meshes, in the order in which the library shows them. */
export const BUILT: BuiltMesh[] = [
  prop('bollard', 'Bollard', harbour.bollard),
  prop('bollard-painted', 'Painted bollard', harbour.paintedBollard),
  prop('lamp-post', 'Lamp post', harbour.lampPost),
  prop('pennant-madder', 'Pennant, madder', line.pennant(COLORS.madder), 'origin'),
  prop('pennant-woad', 'Pennant, woad', line.pennant(COLORS.woad), 'origin'),
  prop('pennant-weld', 'Pennant, weld', line.pennant(COLORS.weld), 'origin'),
  prop('pennant-moss', 'Pennant, moss', line.pennant(COLORS.moss), 'origin'),
  prop('pennant-linen', 'Pennant, linen', line.pennant(COLORS.linen), 'origin'),
  prop('square-flag', 'Square flag', line.squareFlag, 'origin'),
  prop('lantern', 'Lantern', line.lantern, 'origin'),
  prop('bulb', 'Bulb', line.bulb, 'origin'),
  prop('chain-link', 'Chain link', line.chainLink, 'centre'),
  prop('net-float', 'Net float', line.netFloat, 'centre'),
  prop('rope-post', 'Rope post', harbour.ropePost),
  prop('rail', 'Rail', line.rail),
  prop('plank', 'Plank', line.plank),
  prop('rope-piece', 'Rope piece', ferry.ropePiece, 'centre'),
  prop('rope', 'Rope', ropes.rope, 'origin'),
  prop('cord', 'Cord', ropes.cord, 'origin'),
  prop('screw-eye', 'Screw eye', ropes.screwEye, 'origin'),
  prop('ferry-car', 'Ferry car', ferry.ferryCar),
  prop('line-pylon', 'Line pylon', ferry.linePylon),
  prop('bench', 'Bench', harbour.bench),
  prop('crate', 'Crate', harbour.crate),
  prop('barrel', 'Barrel', harbour.barrel),
  prop('rope-coil', 'Rope coil', harbour.ropeCoil),
  prop('tin', 'Tin', store.tin),
  prop('tar-tin', 'Tin of tar', store.tarTin),
  prop('jar', 'Jar', store.jar),
  prop('line-coil', 'Coil of line', store.lineCoil),
  prop('jar-crate', 'Crate for jars', store.jarCrate),
  prop('fish-box', 'Fish box', store.fishBox),
  prop('creel', 'Creel', store.creel),
  prop('wagon', 'Wagon', store.wagon),
  prop('rack', 'Rack', store.rack),
  prop('deep-rack', 'Deep rack', store.deepRack),
  prop('shallow-rack', 'Shallow rack', store.shallowRack),
  prop('cleat', 'Cleat', harbour.cleat),
  prop('mooring-ring', 'Mooring ring', harbour.mooringRing, 'origin'),
  prop('life-ring', 'Life ring', harbour.lifeRing, 'centre'),
  prop('buoy', 'Buoy', harbour.buoy),
  { ...prop('boulder', 'Boulder', harbour.boulder), anyTurn: true },
  { ...prop('grass-tuft', 'Grass tuft', harbour.grassTuft), anyTurn: true },
  { ...prop('gorse', 'Gorse bush', growth.gorse), anyTurn: true },
  { ...prop('sea-pink', 'Sea pink', growth.seaPink), anyTurn: true },
  { ...prop('cabbage', 'Cabbage', growth.cabbage), anyTurn: true },
  { ...prop('gull', 'Gull', growth.gull, 'origin'), motion: growth.gullMotion },
  { ...prop('skipper', 'Skipper', people.skipper.make), motion: people.skipper.motion },
  { ...prop('gardener', 'Gardener', people.gardener.make), motion: people.gardener.motion },
  { ...prop('baker', 'Baker', people.baker.make), motion: people.baker.motion },
  prop('dinghy', 'Dinghy', harbour.dinghy, 'origin'),
  prop('stitch', 'Stitch', line.stitch),
  prop('scallop-tile', 'Scallop tile', tiles.scallopTile, 'origin'),
  prop('shingle', 'Roof shingle', tiles.shingle, 'origin'),
  prop('lozenge', 'Lozenge', tiles.lozenge, 'centre'),
  prop('emblem', 'Compass emblem', tiles.emblem, 'origin'),
  { name: 'quay', title: 'Quay', use: 'surface', foot: 'origin', make: quay.quay },
  { name: 'water', title: 'Water', use: 'surface', foot: 'origin', make: water.water },
  { name: 'basin', title: 'Basin', use: 'surface', foot: 'origin', make: water.basin },
  { name: 'far-shore', title: 'Far shore', use: 'surface', foot: 'origin', make: farShore },
  { name: 'tower', title: 'Beacon tower', use: 'surface', foot: 'origin', make: () => tower() },
  { name: 'headland', title: 'Headland', use: 'surface', foot: 'origin', make: head.headland },
  {
    name: 'keepers-house',
    title: 'Keeper’s house',
    use: 'surface',
    foot: 'origin',
    make: head.keepersHouse,
  },
  { name: 'roof', title: 'Boathouse roof', use: 'surface', foot: 'origin', make: boathouse.roof },
  {
    name: 'boathouse-walls',
    title: 'Boathouse walls',
    use: 'surface',
    foot: 'origin',
    make: boathouse.walls,
  },
  { name: 'wall-rack', title: 'Rack to stock', use: 'surface', foot: 'origin', make: store.rack },
  { name: 'hull', title: 'Hull', use: 'surface', foot: 'origin', make: boathouse.hull },
  { name: 'floor', title: 'Floor, 20 × 20 m', use: 'surface', foot: 'origin', make: quay.floor },
];

const byName = new Map(BUILT.map((b) => [b.name, b]));
const made = new Map<string, Mesh>();

/** A built-in mesh, made once; undefined for an unknown name. */
export function builtMesh(name: string): Mesh | undefined {
  const entry = byName.get(name);
  if (!entry) return undefined;
  let mesh = made.get(name);
  if (!mesh) made.set(name, (mesh = entry.make()));
  return mesh;
}

const moving = new Map<string, Motion>();

/** The animations of a mesh that ships with the application; undefined where it brings none. */
export function builtMotion(name: string): Motion | undefined {
  const make = byName.get(name)?.motion;
  let motion = moving.get(name);
  if (make && !motion) moving.set(name, (motion = make()));
  return motion;
}

export const builtEntry = (name: string): BuiltMesh | undefined => byName.get(name);
