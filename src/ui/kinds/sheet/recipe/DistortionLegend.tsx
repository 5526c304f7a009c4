import { distortionColor } from '@/view/distortion';

const AREAS = [0.5, 0.7, 0.85, 1, 1.2, 1.4, 2];

/** What the colours of distortion mean: areas from half to double, and corners askew. */
export function DistortionLegend({ bare }: { bare?: boolean }) {
  return (
    <div className="mt-1" role="img" aria-label="Colours of distortion: half the area to double">
      <div className="flex overflow-hidden rounded">
        {AREAS.map((a) => (
          <span
            key={a}
            className="num flex-1 py-0.5 text-center text-[11px] text-ink-900"
            style={{ background: distortionColor(a, 0) }}
          >
            {a}×
          </span>
        ))}
      </div>
      {!bare && (
        <p className="mt-1 flex items-center gap-1.5 text-[12px] text-soft">
          <span className="size-3 rounded-sm" style={{ background: distortionColor(1, 45) }} />
          Plum: corners askew by 45° and more
        </p>
      )}
    </div>
  );
}
