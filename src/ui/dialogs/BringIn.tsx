'use client';

import { FileBox } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { meshBounds, propMatrix, type Bounds } from '@/core/mesh/mesh';
import { snapPointsOf } from '@/core/mesh/snapPoints';
import type { Axis, MeshRef } from '@/core/mesh/meshRef';
import type { BroughtIn } from '@/engine/files';
import { addProp, replacePropMesh } from '@/store/commands/scene';
import { addSurface, replaceMesh } from '@/store/commands/surfaces';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { describeFailure } from '@/store/keeping/keeper';
import { putMesh } from '@/store/keeping/scenes';
import { selectNode, useSelection } from '@/store/selection';
import { pictureOf } from '@/view/pictures';
import { Button } from '../controls/Button';
import { Modal } from '../controls/Modal';
import { Segmented } from '../controls/Segmented';
import { Toggle } from '../controls/Toggle';
import { WorkProgress } from './WorkProgress';
import { AxisField, UnitField } from '../recipe/nodes/MeshFields';
import { lookWhenThere } from '../shell/lookWhenThere';
import { openDialog, useUi } from '../uiState';
import { bringInHeights } from './bringInHeights';
import { bringInTable } from './bringInTable';
import { metres, plural } from '@/words/numbers';

/** glTF counts in metres. Beyond these sizes it is asked whether this file does; nothing is changed unasked. */
const ABSURD = { least: 0.001, most: 2000 };

/** Bringing in a mesh of one's own: looked at first, corrected, then taken as a prop or a surface. */
export function BringIn() {
  const input = useRef<HTMLInputElement>(null);
  const given = useUi((s) => s.file);
  const [found, setFound] = useState<{ brought: BroughtIn; bytes: Uint8Array } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [reading, setReading] = useState(false);
  const [over, setOver] = useState(false);
  const read = async (file: File) => {
    setProblem(null);
    setFound(null);
    setReading(true);
    try {
      if (file.size > 256 * 1048576)
        throw new Error(
          `“${file.name}” is ${Math.round(file.size / 1048576)} MB; the limit is 256 MB. Reduce its textures or split it.`,
        );
      if (/\.csv$/i.test(file.name)) {
        await bringInTable(file);
        return openDialog(null);
      }
      const bytes = new Uint8Array(await file.arrayBuffer());
      if (/\.png$/i.test(file.name)) {
        await bringInHeights(bytes, file.name);
        return openDialog(null);
      }
      setFound({ brought: await engine().bringIn(bytes, file.name), bytes });
    } catch (error) {
      setProblem((error as Error).message);
    } finally {
      setReading(false);
    }
  };
  useEffect(() => {
    if (given) void read(given);
  }, [given]);
  return (
    <Modal title="Bring in" onClose={() => openDialog(null)} width="max-w-xl">
      {!found && (
        <div
          className={`flex flex-col items-center gap-3 rounded-lg border-2 border-dashed px-6 py-9 text-center ${over ? 'border-woad bg-well' : 'border-edge'}`}
          onDragOver={(e) => {
            e.preventDefault();
            setOver(true);
          }}
          onDragLeave={() => setOver(false)}
          onDrop={(e) => {
            e.preventDefault();
            setOver(false);
            if (e.dataTransfer.files[0]) void read(e.dataTransfer.files[0]);
          }}
        >
          <FileBox size={28} className="text-soft" />
          <p className="text-sm text-soft">
            A prop or a surface as binary glTF (.glb), a grey picture (.png) as a height field, or a table of
            places (.csv with x, y, z) as pegs. Drag one here, or
          </p>
          <Button
            look="ink"
            title="From your disk: nothing is sent anywhere"
            disabled={reading}
            onClick={() => input.current?.click()}
          >
            {reading ? 'Reading…' : 'Choose a file'}
          </Button>
        </div>
      )}
      <input
        ref={input}
        type="file"
        accept=".glb,.csv,.png,model/gltf-binary,text/csv,image/png"
        aria-label="File to bring in"
        className="hidden"
        onChange={(e) => {
          if (e.target.files?.[0]) void read(e.target.files[0]);
          e.target.value = '';
        }}
      />
      {reading && <WorkProgress />}
      {problem && (
        <p role="alert" className="mt-3 text-[13px] text-danger">
          {problem}
        </p>
      )}
      {found && <Correct {...found} onAgain={() => setFound(null)} />}
    </Modal>
  );
}

/** What was found in the file, and what can be corrected before it is taken. */
function Correct({
  brought,
  bytes,
  onAgain,
}: {
  brought: BroughtIn;
  bytes: Uint8Array;
  onAgain: () => void;
}) {
  const units = useDocument((s) => s.scene.units);
  const node = useSelection((s) => s.node);
  /** The surface or prop in hand, whose mesh can be replaced. */
  const surface = useDocument((s) =>
    s.scene.surfaces.find((x) => node?.kind === 'surface' && x.id === node.id),
  );
  const prop = useDocument((s) => s.scene.props.find((x) => node?.kind === 'prop' && x.id === node.id));
  const held = surface ?? prop;
  const { min, max } = brought.bounds;
  const [use, setUse] = useState<'prop' | 'surface' | 'replace'>('prop');
  const [unitScale, setUnit] = useState(1);
  const [up, setUp] = useState<Axis>('+y');
  const [name, setName] = useState(brought.fileName.replace(/\.glb$/i, ''));
  const [picture, setPicture] = useState<string | null>(null);
  const [snaps, setSnaps] = useState(true);
  const points = brought.mesh.snapPoints?.length ?? 0;
  const [problem, setProblem] = useState<string | null>(null);
  const front: Axis = use === 'replace' && prop ? prop.front : up[1] === 'z' ? '+y' : '+z';
  const choose = (to: typeof use) => {
    setUse(to);
    // A newer file of the same thing mostly comes as the one before did.
    if (to === 'replace' && held) {
      setUnit(held.unitScale);
      setUp(held.up);
    }
  };
  useEffect(() => {
    let current = true;
    const matrix = propMatrix({ unitScale, foot: { at: 'base' }, front, up }, meshBounds(brought.mesh));
    void pictureOf(brought.mesh, matrix).then((p) => current && setPicture(p));
    return () => {
      current = false;
    };
  }, [brought, unitScale, up, front]);
  const axis = 'xyz'.indexOf(up[1]);
  const largest = Math.max(...max.map((v, i) => v - min[i])) * unitScale;
  const absurd = !(largest >= ABSURD.least && largest <= ABSURD.most);
  const sizes = ownSize(brought.bounds, axis)
    .map((v) => metres(v * unitScale, units))
    .join(' × ');
  const take = async () => {
    const mesh: MeshRef = {
      source: 'file',
      hash: brought.hash,
      format: 'glb',
      fileName: brought.fileName.slice(0, 200),
    };
    try {
      await putMesh(brought.hash, bytes);
    } catch (error) {
      return setProblem(describeFailure(error));
    }
    const title = name.trim().slice(0, 200) || 'Mesh';
    if (use === 'prop') {
      const lies = { unitScale, up, front, foot: { at: 'base' as const } };
      const snapPoints = snaps && points > 0 ? snapPointsOf(brought.mesh, lies) : [];
      const id = dispatch(addProp, { name: title, mesh, settings: { unitScale, up, front, snapPoints } });
      if (id) selectNode('prop', id);
    } else if (use === 'replace' && held) {
      if (surface) dispatch(replaceMesh, { id: held.id, mesh, settings: { unitScale, up } });
      else dispatch(replacePropMesh, { id: held.id, mesh, settings: { unitScale, up } });
    } else {
      // What can play by itself does, from the first.
      const [clip] = brought.clips;
      const plays = clip ? { clip: clip.name, speed: 1, loop: true } : null;
      const id = dispatch(addSurface, { name: title, mesh, settings: { unitScale, up, plays } });
      if (id) {
        selectNode('surface', id);
        lookWhenThere({ kind: 'surface', id });
      }
    }
    openDialog(null);
  };
  return (
    <div className="flex gap-4">
      <div className="flex size-36 shrink-0 items-center justify-center rounded-lg bg-well dusk:bg-tag">
        {picture && <img src={picture} alt={`Picture of ${name}`} width={112} height={112} />}
      </div>
      <div className="min-w-0 flex-1">
        <Segmented
          fill
          label="Take it as"
          hint="What the mesh becomes in the scene"
          value={use}
          options={[
            { value: 'prop', text: 'A prop' },
            { value: 'surface', text: 'A surface' },
            ...(held ? [{ value: 'replace' as const, text: `“${held.name}” anew` }] : []),
          ]}
          onChange={choose}
        />
        <label className="mt-1 flex min-h-9 items-center justify-between gap-3 text-sm">
          Name
          <input
            title="What it is called in the lists"
            value={name}
            onChange={(e) => setName(e.target.value)}
            className="w-[210px] rounded-md border border-edge bg-card px-2 py-1"
          />
        </label>
        <UnitField value={unitScale} onChange={setUnit} />
        <AxisField
          label="Up axis"
          value={up}
          onChange={setUp}
          not={use === 'replace' ? prop?.front : undefined}
        />
        <p className="mt-1 text-[12.5px] text-soft">
          Wide × long × high:{' '}
          <span className="num text-text" data-testid="size">
            {sizes}
          </span>{' '}
          · {plural(brought.triangles, 'face')}
          {brought.clips.length > 0 && ` · ${plural(brought.clips.length, 'animation')}`}
          {use === 'prop' && '. Its foot is the base centre.'}
          {use === 'replace' && prop && '. Its foot, front, size and snap points stay.'}
        </p>
        {use === 'prop' && points > 0 && (
          <Toggle
            label={`${plural(points, 'snap point')} from its empty nodes`}
            hint="Nodes without a mesh become points that lines are connected to, by their names"
            value={snaps}
            onChange={setSnaps}
          />
        )}
        {brought.notKept.length > 0 && (
          <p role="status" className="mt-1 text-[12.5px] text-caution">
            {`Not kept: ${brought.notKept.join(', ')}. Everything else comes in.`}
          </p>
        )}
        {absurd && (
          <p role="status" className="mt-1 text-[12.5px] text-caution">
            {`Its largest side is ${metres(largest, 'm', largest < 1 ? 6 : 0)}. If the file does not count in metres, choose its unit above.`}
          </p>
        )}
        {problem && (
          <p role="alert" className="mt-1 text-[13px] text-danger">
            {problem}
          </p>
        )}
        <div className="mt-3 flex justify-between">
          <Button title="Puts this one aside; the scene stays as it is" onClick={onAgain}>
            Another file
          </Button>
          <Button look="ink" title="One step, which can be undone" onClick={() => void take()}>
            {use === 'prop'
              ? 'Put in the basket'
              : use === 'replace'
                ? 'Replace the mesh'
                : 'Put in the scene'}
          </Button>
        </div>
      </div>
    </div>
  );
}

/** Width, length and height of bounds whose up axis is `axis`. */
function ownSize({ min, max }: Bounds, axis: number): number[] {
  const size = max.map((v, i) => v - min[i]);
  const flat = [0, 1, 2].filter((a) => a !== axis);
  return [size[flat[0]], size[flat[1]], size[axis]];
}
