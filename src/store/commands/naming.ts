/** Words for the undo list. */

const LABELS: Record<string, string> = {
  pitch: 'pitch',
  count: 'count',
  leftover: 'leftover',
  ends: 'ends',
  insetStart: 'inset at start',
  insetEnd: 'inset at end',
  looseBy: 'loose by',
  minDistance: 'least distance',
  mode: 'mode',
  heading: 'heading',
  compassDeg: 'compass',
  posture: 'posture',
  side: 'side',
  lift: 'lift',
  turnDeg: 'turn',
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
  spread: 'spread',
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
  mesh: 'shape',
};

const number = (v: number) => String(Number(v.toPrecision(4)));

function show(value: unknown): string {
  if (value === null || value === undefined) return 'auto';
  if (typeof value === 'number') return number(value);
  if (typeof value === 'boolean') return value ? 'on' : 'off';
  if (Array.isArray(value)) return value.map(show).join(', ');
  if (typeof value === 'object') return '';
  return String(value);
}

/** "pitch 1.8 → 2.4", from the fields that differ. */
export function describeChange(before: object, values: object): string {
  const changed = Object.keys(values).filter(
    (k) =>
      JSON.stringify((before as Record<string, unknown>)[k]) !==
      JSON.stringify((values as Record<string, unknown>)[k]),
  );
  const key = changed[0] ?? Object.keys(values)[0];
  const label = LABELS[key] ?? key;
  const [from, to] = [before, values].map((o) => show((o as Record<string, unknown>)[key]));
  const more = changed.length > 1 ? ' and more' : '';
  return from || to ? `${label} ${from} → ${to}${more}` : `${label}${more}`;
}
