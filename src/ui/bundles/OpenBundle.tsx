'use client';

import { PackageOpen } from 'lucide-react';
import { useDocument } from '@/store/document';
import { Button } from '../controls/Button';
import { closeBundle } from './making';

/** Over the scene while a bundle is open: which one, and the way back. */
export function OpenBundle() {
  const open = useDocument((s) => s.scene.bundles.find((b) => b.open));
  const prop = useDocument((s) =>
    s.scene.props.find((p) => p.mesh.source === 'bundle' && p.mesh.bundle === open?.id),
  );
  if (!open) return null;
  return (
    <div
      role="status"
      className="absolute left-1/2 top-[62px] z-10 flex -translate-x-1/2 items-center gap-2 rounded-lg border border-edge bg-paper px-3 py-1.5 text-[13px] shadow-lg"
    >
      <PackageOpen size={15} className="text-soft" />
      <span className="max-w-[280px] truncate">
        <b className="font-semibold">{prop?.name ?? open.name}</b> is open: all its copies follow
      </span>
      <Button look="bordered" className="!py-0.5" title="Back to the whole scene" onClick={closeBundle}>
        Done
      </Button>
    </div>
  );
}
