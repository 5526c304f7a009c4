'use client';

import type { ComponentType } from 'react';
import type { Arrangement } from '@/core/scene/schema';
import { useDocument } from '@/store/document';
import { useSelection } from '@/store/selection';
import { PathPanel } from './nodes/PathPanel';
import { PropPanel } from './nodes/PropPanel';
import { SurfacePanel } from './nodes/surface/SurfacePanel';
import { RECIPES } from './registry';

/** The right side: the selected arrangement's recipe, or the settings of another node. */
export function RecipePanel() {
  const node = useSelection((s) => s.node);
  const scene = useDocument((s) => s.scene);
  if (node?.kind === 'path') return <PathPanel id={node.id} />;
  if (node?.kind === 'surface') return <SurfacePanel id={node.id} />;
  if (node?.kind === 'prop') return <PropPanel id={node.id} />;
  const arrangement = scene.arrangements.find((a) => a.id === node?.id);
  if (arrangement) {
    const Recipe = RECIPES[arrangement.kind] as ComponentType<{ arrangement: Arrangement }>;
    return <Recipe key={arrangement.id} arrangement={arrangement} />;
  }
  return (
    <div className="p-5 text-sm text-soft">
      <h2 className="mb-2 font-display text-lg font-semibold text-text">Nothing selected</h2>
      <p>
        {scene.arrangements.length > 0
          ? 'Choose an arrangement in the list, or click one of its props in the scene: its recipe stands here.'
          : 'Draw a path and hang a prop on it: the recipe of the new run stands here.'}
      </p>
    </div>
  );
}
