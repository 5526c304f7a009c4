import { useAsked } from '@/store/asked';
import { rewind } from '@/store/clock';
import { clearSelection } from '@/store/selection';
import { viewAnew } from '@/view/viewState';
import { useShownMaterial } from '../materials/shown';
import { VIEW_NOW } from '../still/jobs';
import { useStills } from '../still/making';
import { nameGroup, openDialog } from '../uiState';

/** Nothing of the scene before goes on in the one that is opened: not its time, nor what was in hand or asked of it. */
export function beginScene(): void {
  rewind();
  clearSelection();
  viewAnew();
  openDialog(null);
  nameGroup(null);
  useAsked.setState({ asked: null });
  useShownMaterial.setState({ id: null });
  useStills.setState({ views: [VIEW_NOW], said: null });
}
