import { beaconPrint } from './beaconPrint';
import { beaconTiles } from './beaconTiles';
import { chandlery } from './chandlery';
import { ferryLoop } from './ferryLoop';
import { headland } from './headland';
import { ropeFence } from './ropeFence';
import { sailcloth } from './sailcloth';
import { riggingBoard } from './riggingBoard';
import { lanternEvening, ternQuay } from './ternQuay';

/** The example scenes by the name of their file. */
export const EXAMPLES = { 'tern-quay': ternQuay, 'lantern-evening': lanternEvening, 'rope-fence': ropeFence, 'ferry-loop': ferryLoop, sailcloth, 'beacon-tiles': beaconTiles, 'beacon-print': beaconPrint, 'rigging-board': riggingBoard, headland, chandlery };
