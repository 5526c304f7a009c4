import type { Scene } from '@/core/scene/schema';

/** Words for the undo list. */

const LABELS: Record<string, string> = {
  pitch: 'pitch',
  how: 'spread',
  amount: 'how many',
  number: 'number',
  loose: 'loose',
  each: 'how many about each',
  wide: 'width of clumps',
  count: 'count',
  leftover: 'leftover',
  ends: 'ends',
  insetStart: 'inset at start',
  insetEnd: 'inset at end',
  insetStartLengths: 'inset at start in props',
  insetEndLengths: 'inset at end in props',
  looseBy: 'loose by',
  minDistance: 'least distance',
  mode: 'mode',
  heading: 'heading',
  compassDeg: 'compass',
  posture: 'posture',
  side: 'side',
  lift: 'lift',
  turnDeg: 'turn',
  turnEachDeg: 'turn more each',
  tipDeg: 'tip',
  rollDeg: 'roll',
  size: 'size',
  along: 'along',
  turnStepDeg: 'turn step',
  tipStepDeg: 'tip step',
  rollStepDeg: 'roll step',
  chance: 'chance',
  seed: 'seed',
  thread: 'thread',
  visible: 'visible',
  name: 'name',
  closed: 'closed',
  unitScale: 'unit',
  foot: 'foot',
  front: 'front',
  up: 'up',
  position: 'position',
  tension: 'tension',
  fillet: 'fillet',
  kind: 'kind',
  times: 'times',
  weight: 'weight',
  from: 'from',
  to: 'to',
  clearance: 'clearance',
  parts: 'parts',
  per: 'divide per',
  every: 'every',
  withEnds: 'ends',
  at: 'at',
  density: 'density',
  columns: 'columns',
  follow: 'fewer where narrow',
  left: 'margin left',
  right: 'margin right',
  bottom: 'margin below',
  top: 'margin above',
  order: 'order',
  bend: 'bent',
  snapPoints: 'snap points',
  rigid: 'props that keep their shape',
  tolerance: 'bent to within',
  fit: 'fit',
  surface: 'surface',
  over: 'what it lies over',
  flipU: 'flip u',
  flipV: 'flip v',
  swap: 'swap u and v',
  otherSide: 'other side',
  guess: 'guess the corner',
  skipRows: 'skip rows',
  skipColumns: 'skip columns',
  skipCells: 'skip places',
  corners: 'at corners',
  fill: 'fill the end',
  rows: 'rows',
  distance: 'distance',
  stagger: 'stagger',
  mirrored: 'mirrored',
  target: 'target',
  alternate: 'alternate',
  sideRamp: 'side along the way',
  bag: 'exact shares',
  noRepeats: 'no repeats',
  first: 'first',
  last: 'last',
  corner: 'corners',
  zones: 'zones',
  zone: 'zone',
  longest: 'longest run of gaps',
  taken: 'taken',
  after: 'after a gap',
  collide: 'collisions',
  offset: 'offset',
  speed: 'speed',
  clip: 'animation',
  begin: 'beginning',
  steps: 'poses',
  byDeg: 'angle',
  steers: 'steering',
  border: 'at a border',
  spread: 'spread',
  bankFrom: 'begins with up',
  waverSide: 'waver sideways',
  waverLift: 'waver up and down',
  waverTurnDeg: 'waver of the turn',
  waverLength: 'length of a waver',
  waverRows: 'rows waver',
  mirror: 'mirrored',
  tint: 'tint',
  perProp: 'own ranges',
  sizeX: 'width',
  sizeY: 'height',
  sizeZ: 'length',
  radius: 'radius',
  turns: 'turns',
  rise: 'rise',
  handleIn: 'handle',
  handleOut: 'handle',
  surfaces: 'surfaces',
  direction: 'direction',
  typed: 'direction',
  above: 'from above',
  contact: 'touches by',
  lean: 'lean',
  leanMaxDeg: 'leans at most',
  sink: 'sink',
  missed: 'no ground',
  floor: 'floor height',
  normals: 'normals',
  flipped: 'inside out',
  locked: 'locked',
  deformers: 'deformers',
  measured: 'lengths',
  only: 'only some',
  seat: 'seat',
  landing: 'landing',
  share: 'leaders that carry one',
  reach: 'to the n-th after',
  inset: 'free at both ends',
  props: 'props',
  on: 'stands on',
  mesh: 'shape',
  mask: 'mask',
  sizeMask: 'size by mask',
  sizeLeast: 'least size by mask',
  combine: 'layers together',
  ramp: 'ramp',
  base: 'unpainted',
  channel: 'what counts',
  by: 'laid',
  frame: 'frame',
  picture: 'picture',
  span: 'patch to patch',
  level: 'level',
  driftSpan: 'drift turns over',
  riseDeg: 'rises by',
  arrangements: 'arrangements',
  faces: 'faces',
  slack: 'slack',
  length: 'length',
  sag: 'depth',
  wind: 'wind',
  lies: 'lies on surfaces',
  pairs: 'pairs',
  snap: 'snap point',
  air: 'air between facings',
  airBehind: 'air between rows',
  airAbove: 'air above',
  setback: 'set back',
  deepBy: 'how deep',
  deep: 'rows',
  deepShare: 'rows',
  highBy: 'how high',
  high: 'stacked',
  highShare: 'stacked',
  align: 'aligned to',
  out: 'sold out',
  forward: 'pulled forward',
  sold: 'sold out',
  stack: 'may be stacked',
  behind: 'board lies',
  levels: 'levels',
  goods: 'goods',
  empty: 'left empty',
  board: 'board',
  who: 'who falls when',
  place: 'place on the path',
  region: 'closed paths',
  near: 'near a border',
  fade: 'fades over',
  onto: 'falls onto',
  against: 'falls onto',
  gravity: 'gravity',
  friction: 'friction',
  bounce: 'bounce',
  drag: 'drag',
  shapes: 'strikes by',
  then: 'at rest',
  seconds: 'seconds at most',
  duration: 'duration',
};

/** Fields that are lengths; they are named in the unit that their fields show. */
const LENGTHS = new Set(
  (
    'pitch by insetStart insetEnd looseBy minDistance clearance side lift along distance offset radius endRadius ' +
    'rise inner outer length sag fillet width depth height reach inset longest above floor tolerance ' +
    'lay left right bottom top position from to waverSide waverLift waverLength air airBehind airAbove setback'
  ).split(' '),
);
/** Fields that are shares, shown in hundredths. */
const SHARES = new Set('chance share size sizeX sizeY sizeZ mirror lean stagger slack tension'.split(' '));
/** What the choices of a field are called where they are made. */
const CHOICES: Record<string, Record<string, string>> = {
  ends: { included: 'at the ends', half: 'half in' },
  leftover: { even: 'even out', end: 'at end', centre: 'centre' },
  measured: { rest: 'at rest', moving: 'as it moves' },
  after: { hole: 'leave a hole', close: 'close up' },
  waverRows: { together: 'together', each: 'each' },
  begin: { together: 'together', chance: 'by chance', turn: 'in turn' },
  way: { over: 'over', along: 'along', turn: 'turn' },
  border: { stop: 'all stop', back: 'all turn back', around: 'comes in opposite', leave: 'is gone' },
  collide: { ignore: 'off', 'leave-out': 'on' },
  combine: { product: 'all', largest: 'any', difference: 'less' },
  pairs: {
    next: 'each to the next',
    rows: 'row to row',
    same: 'the same number',
    cross: 'crosswise',
    random: 'by chance',
  },
};

/** Fields that name a node: its id says nothing to people. */
const NAMES = new Set(['mask', 'sizeMask', 'arrangements', 'faces', 'picture']);

const number = (v: number) => String(Number(v.toPrecision(4)));

function show(key: string, value: unknown, units: Scene['units']): string {
  if (NAMES.has(key) || (key === 'on' && typeof value === 'string')) return '';
  if (value === null || value === undefined) return 'auto';
  if (typeof value === 'number') {
    if (SHARES.has(key)) return `${number(value * 100)}%`;
    return number(LENGTHS.has(key) && units === 'cm' ? value * 100 : value);
  }
  if (typeof value === 'string') return CHOICES[key]?.[value] ?? value;
  if (typeof value === 'boolean') return value ? 'on' : 'off';
  if (Array.isArray(value)) return value.map((v) => show(key, v, units)).join(', ');
  if (typeof value === 'object') return '';
  return String(value);
}

/**
 * "pitch 1.8 → 2.4", from the fields that differ, in the scene's units.
 * @param labels for fields that are called otherwise here
 */
export function describeChange(
  before: object,
  values: object,
  units: Scene['units'],
  labels: Record<string, string> = {},
): string {
  const changed = Object.keys(values).filter(
    (k) =>
      JSON.stringify((before as Record<string, unknown>)[k]) !==
      JSON.stringify((values as Record<string, unknown>)[k]),
  );
  const key = changed[0] ?? Object.keys(values)[0];
  const label = labels[key] ?? LABELS[key] ?? key;
  const [from, to] = [before, values].map((o) => show(key, (o as Record<string, unknown>)[key], units));
  const more = changed.length > 1 ? ' and more' : '';
  return from || to ? `${label} ${from} → ${to}${more}` : `${label}${more}`;
}
