import { PlainMenu, type MenuEntry } from '../../controls/PlainMenu';
import { RenameField } from '../RenameField';

export function NodeHead(props: {
  name: string;
  kind: string;
  detail: string;
  color: string;
  onRename: (name: string) => void;
  menu: () => MenuEntry[];
}) {
  return (
    <div className="border-b border-edge px-3 pb-2.5 pt-3">
      <div className="flex items-center gap-2">
        <span className="size-[15px] shrink-0 rounded-full" style={{ background: props.color }} />
        <RenameField name={props.name} label={`Name of the ${props.kind}`} onRename={props.onRename} />
        <PlainMenu name={`More for this ${props.kind}`} entries={props.menu} />
      </div>
      <p className="mt-1.5 text-[13px] text-soft">{props.detail}</p>
    </div>
  );
}
