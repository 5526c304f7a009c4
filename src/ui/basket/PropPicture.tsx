'use client';

import { PackageX } from 'lucide-react';
import type { Prop } from '@/core/mesh/propSchema';
import { usePicture } from './usePicture';

export function PropPicture({ prop, size = 34 }: { prop: Prop | undefined; size?: number }) {
  const picture = usePicture(prop);
  if (picture)
    return (
      <img
        src={picture}
        alt=""
        width={size}
        height={size}
        draggable={false}
        className="pointer-events-none rounded select-none dusk:bg-tag"
      />
    );
  return (
    <span
      className="inline-flex items-center justify-center text-faint"
      style={{ width: size, height: size }}
    >
      {prop && picture === null && <PackageX size={size * 0.5} />}
    </span>
  );
}
