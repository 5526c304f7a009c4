import type { PointsPath } from '@/core/curve/schema';
import { closePaths } from '@/store/commands/paths';
import { dispatch } from '@/store/document';
import { Segmented } from '../../../controls/Segmented';
import { alike } from '../../alike';

const ENDS = [
  { value: 'open', text: 'Open' },
  { value: 'closed', text: 'Closed' },
] as const;

/** Open or closed, of one path or several. */
export function EndsField({ paths }: { paths: readonly PointsPath[] }) {
  return (
    <Segmented
      shown
      label="Ends"
      hint="Whether the last point is joined to the first"
      value={alike(paths, (p) => (p.closed ? 'closed' : 'open'))}
      options={ENDS}
      onChange={(v) => dispatch(closePaths, { ids: paths.map((p) => p.id), closed: v === 'closed' })}
    />
  );
}
