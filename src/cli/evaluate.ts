import { readFile, writeFile } from 'node:fs/promises';
import { basename } from 'node:path';
import { parseArgs } from 'node:util';
import { countStates } from '@/core/arrange/result';
import type { MergedFormat, MergedOptions } from '@/core/formats/merged';
import type { Scene } from '@/core/scene/schema';
import { helpInNode } from '@/engine/help/inNode';
import { EngineService, type SendFormat } from '@/engine/service';
import { wantedSo } from '@/core/arrange/asWanted';
import { sentence } from '@/words/findings';
import type { WantedStill } from './still';

const USAGE = `Usage: npm run -s evaluate -- <scene> --out <file>
       npm run -s evaluate -- <scene> --check
  <scene>        a .clothesline file, or a scene.json whose meshes are all built in
  --out <file>   .glb, .stl, .3mf, .obj, .csv, .clothesline, .zip, .png or .exr by its ending; - writes CSV to the terminal
  --view <name>  .png, .exr: the viewpoint; without it as the scene was left
  --size <px>    .png, .exr: the longer side (1920)
  --frames <n>   .png, .exr: so many are added up (64; a power of two), or "quiet" for as many as it takes
  --background <what>  .png, .exr: scene, transparent, or a colour such as #fbf8f1 (scene)
  --bits <n>     .png: 8 or 16 (8)
  --nodes        .glb: one node a prop instead of instances
  --no-surfaces  .glb, .stl, .3mf, .obj: leave the surfaces out
  --scale <1:n>  .stl, .3mf, .obj: so many times smaller than it is (the scene’s own)
  --up <axis>    .stl, .3mf, .obj: y or z (z for printers, y in .obj)
  --snaps        .glb: the props’ snap points as nodes without a mesh
  --lights       .glb: the lights put in by hand and the viewpoints, as lights and cameras
  --gaps         .csv: empty slots get a row too
  --animate <from,to,rate>  .glb: an animation over these seconds, at so many frames a second
  --check        prints what a careful artist would find, a line each; fails where there is anything
  --maps <name>  .zip: the maps of this surface, baked where it has none yet
  --time <s>     the time in seconds at which what moves is worked out (0)`;

/** What is wrong with the call itself; the message is followed by the usage. */
class UsageError extends Error {}

function readArguments(argv: string[]) {
  let parsed;
  try {
    parsed = parseArgs({
      args: argv,
      allowPositionals: true,
      options: {
        out: { type: 'string' },
        nodes: { type: 'boolean', default: false },
        'no-surfaces': { type: 'boolean', default: false },
        snaps: { type: 'boolean', default: false },
        lights: { type: 'boolean', default: false },
        gaps: { type: 'boolean', default: false },
        check: { type: 'boolean', default: false },
        time: { type: 'string', default: '0' },
        animate: { type: 'string' },
        scale: { type: 'string' },
        up: { type: 'string' },
        maps: { type: 'string' },
        view: { type: 'string' },
        size: { type: 'string', default: '1920' },
        frames: { type: 'string', default: '64' },
        background: { type: 'string', default: 'scene' },
        bits: { type: 'string', default: '8' },
        help: { type: 'boolean', default: false },
      },
    });
  } catch (error) {
    throw new UsageError((error as Error).message);
  }
  return { ...parsed.values, scenes: parsed.positionals };
}

type Args = ReturnType<typeof readArguments>;

function rangeOf(text: string) {
  const [from, to, rate = 24] = text.split(',').map(Number);
  if (![from, to, rate].every(Number.isFinite))
    throw new UsageError(`"${text}" is no stretch of time. Write it as from,to,rate, such as 0,4,24.`);
  return { from, to, rate };
}

function mergedOptions(kind: MergedFormat, args: Args, printScale: number): MergedOptions {
  const scale = args.scale === undefined ? printScale : Number(args.scale.replace(/^1:/, ''));
  if (!(scale >= 0.001 && scale <= 1e6))
    throw new UsageError(`"${args.scale}" is no scale. Write it as 1:200, or 200.`);
  const { up = kind === 'obj' ? 'y' : 'z' } = args;
  if (up !== 'y' && up !== 'z') throw new UsageError(`"${up}" is no axis that can be up. Use y or z.`);
  return { scale, up, surfaces: !args['no-surfaces'] };
}

function formatOf(out: string, args: Args, { surfaces, print: { scale: printScale } }: Scene): SendFormat {
  if (out === '-' || out.endsWith('.csv')) return { kind: 'csv', gaps: args.gaps };
  const merged = (['stl', '3mf', 'obj'] as const).find((kind) => out.endsWith(`.${kind}`));
  if (merged) return { kind: merged, options: mergedOptions(merged, args, printScale) };
  if (out.endsWith('.clothesline')) return { kind: 'clothesline' };
  if (out.endsWith('.zip')) {
    const found = surfaces.find((s) => s.name === args.maps);
    if (found) return { kind: 'maps', surface: found.id };
    const names = surfaces.map((s) => `“${s.name}”`).join(', ') || 'none';
    throw new UsageError(`Name the surface whose maps go into "${out}" with --maps. There are: ${names}.`);
  }
  if (out.endsWith('.glb')) {
    return {
      kind: 'glb',
      options: {
        props: args.nodes ? 'nodes' : 'instanced',
        surfaces: !args['no-surfaces'],
        snaps: args.snaps,
        lights: args.lights,
      },
      ...(args.animate !== undefined && { animation: rangeOf(args.animate) }),
    };
  }
  throw new UsageError(
    `The ending of "${out}" is not known. Use .glb, .stl, .3mf, .obj, .csv, .clothesline, .zip, .png, .exr, or -.`,
  );
}

/** What a picture is to be, by the words of the call. */
function pictureOf(out: string, args: Args, time: number): WantedStill {
  const whole = (text: string, least: number, most: number, what: string): number => {
    const n = Number(text);
    if (!Number.isInteger(n) || n < least || n > most)
      throw new UsageError(`"${text}" is no ${what}. Use a whole number from ${least} to ${most}.`);
    return n;
  };
  const isColor = /^#[0-9a-f]{6}$/i.test(args.background);
  if (!isColor && args.background !== 'scene' && args.background !== 'transparent')
    throw new UsageError(
      `"${args.background}" is no background. Use scene, transparent, or a colour such as #fbf8f1.`,
    );
  if (args.bits !== '8' && args.bits !== '16') throw new UsageError(`"${args.bits}" is no 8 and no 16 bits.`);
  return {
    view: args.view,
    size: whole(args.size, 16, 8192, 'size in pixels'),
    frames:
      args.frames === 'quiet'
        ? null
        : 2 ** Math.ceil(Math.log2(whole(args.frames, 4, 1024, 'number of frames'))),
    background: isColor ? 'plain' : args.background === 'transparent' ? 'transparent' : 'scene',
    color: isColor ? args.background : '#000000',
    format: out.endsWith('.exr') ? 'exr' : args.bits === '16' ? 'png16' : 'png8',
    time,
  };
}

/** Works a scene out and writes it. @returns the exit code */
export async function evaluateCommand(
  argv: string[],
  log: (line: string) => void,
  print: (text: string) => void,
): Promise<number> {
  try {
    const args = readArguments(argv);
    if (args.help) return (print(`${USAGE}\n`), 0);
    if (args.scenes.length !== 1) throw new UsageError('Name one scene file.');
    if (!args.out && !args.check) throw new UsageError('Say where to write with --out, or --check.');
    const time = Number(args.time);
    if (!Number.isFinite(time)) throw new UsageError(`"${args.time}" is no time in seconds.`);
    const still = args.out && /\.(png|exr)$/.test(args.out) ? pictureOf(args.out, args, time) : null;
    const service = new EngineService(helpInNode().restAll);
    const path = args.scenes[0];
    const { scene, missing, unknown, mends } = await service.open(
      new Uint8Array(await readFile(path)),
      basename(path),
    );
    const format = args.out && !still ? formatOf(args.out, args, scene) : null;
    for (const hash of missing) log(`Missing mesh ${hash.slice(0, 12)}…: its props are left out.`);
    for (const m of mends) log(`Mended: ${m.where} (${m.how}${m.how === 'held' ? ` to ${m.held}` : ''}).`);
    if (unknown.length) log(`Left out ${unknown.length} unknown fields, the first at ${unknown[0]}.`);
    const result = service.evaluateAll(scene, time);
    result.arrangements.forEach((a, i) => {
      const counts = countStates(a.placements);
      const gaps = a.placements.count - counts.placed;
      log(`${scene.arrangements[i].name}: ${counts.placed} placed, ${gaps} gaps`);
      for (const f of a.findings) if (f.severity === 'error') log(`  ${f.kind} ${JSON.stringify(f.detail)}`);
    });
    if (still) {
      const { stillOf } = await import('./still');
      await writeFile(args.out!, await stillOf(path, still));
    }
    if (format) {
      const bytes = await service.sendOut(scene, format, time);
      if (args.out === '-') print(new TextDecoder().decode(bytes));
      else await writeFile(args.out!, bytes);
    }
    return args.check ? await checked(service, scene, time, print) : 0;
  } catch (error) {
    log((error as Error).message);
    if (error instanceof UsageError) log(USAGE);
    return error instanceof UsageError ? 2 : 1;
  }
}

/** Prints every finding as a sentence, but those that are as they are wanted. @returns 0 where there is none, else 3 */
async function checked(
  service: EngineService,
  scene: Scene,
  time: number,
  print: (text: string) => void,
): Promise<number> {
  const { surfaces, paths, arrangements, masks } = service.evaluateAll(scene, time);
  const held = (await service.check(scene, time))!;
  const nodes = [
    ...surfaces.map((r, i) => ({ node: scene.surfaces[i], found: r.findings })),
    ...paths.map((r, i) => ({ node: scene.paths[i], found: r.findings })),
    ...masks.map((r, i) => ({ node: scene.masks[i], found: r.findings })),
    ...arrangements.map((r, i) => ({
      node: scene.arrangements[i],
      found: [...r.findings, ...(held.get(r.id) ?? [])].filter(
        (f) => wantedSo(scene.arrangements[i], f) === undefined,
      ),
    })),
  ];
  const lines = nodes.flatMap(({ node, found }) => found.map((f) => `${node.name}: ${sentence(f, scene)}\n`));
  print(lines.join('') || 'All well.\n');
  return lines.length > 0 ? 3 : 0;
}
