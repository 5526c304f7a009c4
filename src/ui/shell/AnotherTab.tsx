import { Button } from '../controls/Button';
import { Standstill } from './Standstill';

/** Says that another tab holds the scene, and offers to take it over. */
export function AnotherTab({ onTakeOver }: { onTakeOver: () => void }) {
  return (
    <Standstill
      title="This scene is open in another tab"
      text="Here it can be looked at, but not changed. Take it over to go on in this tab; the other one saves first and then only looks."
    >
      <Button look="ink" title="Changes are made here from now on" onClick={onTakeOver}>
        Take over
      </Button>
    </Standstill>
  );
}
