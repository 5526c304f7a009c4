import { useDocument } from '@/store/document';
import { Toggle } from '../../controls/Toggle';

/** Which of the props of a bent arrangement keep their shape all the same; nothing where there is only one prop. */
export function KeepShape(props: {
  /** Ids of the props it places. */
  placed: string[];
  rigid: string[];
  onChange: (rigid: string[]) => void;
}) {
  const { placed, rigid, onChange } = props;
  const scene = useDocument((s) => s.scene);
  const listed = scene.props.filter((p) => placed.includes(p.id));
  if (listed.length < 2) return null;
  return (
    <div role="group" aria-label="Props that keep their shape" className="my-1 border-l-2 border-edge pl-2">
      {listed.map((p) => (
        <Toggle
          key={p.id}
          label={`${p.name} keeps its shape`}
          hint="It keeps its shape where the others bend"
          value={rigid.includes(p.id)}
          onChange={(on) => onChange(on ? [...rigid, p.id] : rigid.filter((id) => id !== p.id))}
        />
      ))}
    </div>
  );
}
