import { Button } from '../controls/Button';

/** Says that another tab holds the scene, and offers to take it over. */
export function AnotherTab({ onTakeOver }: { onTakeOver: () => void }) {
  return (
    <div
      role="alert"
      className="absolute inset-x-0 top-20 z-20 mx-auto w-[430px] rounded-lg border border-edge bg-paper p-4 shadow-xl"
    >
      <p className="font-display text-base font-semibold">This scene is open in another tab</p>
      <p className="mb-3 mt-1 text-sm text-soft">
        Here it can be looked at, but not changed. Take it over to go on in this tab; the other one saves
        first and then only looks.
      </p>
      <Button look="ink" onClick={onTakeOver}>
        Take over
      </Button>
    </div>
  );
}
