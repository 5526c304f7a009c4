import { slotName } from '@/core/arrange/slotId';
import { kindOf } from '@/core/arrange/registry';
import type { Finding, GapReason } from '@/core/arrange/result';
import type { MaskLayerKind } from '@/core/mesh/mask/schema';
import type { Scene } from '@/core/scene/schema';
import { showLink } from './links';
import { LAYER_NAMES } from './masks';
import { metres, plural, whole } from './numbers';

/** A finding as one sentence: what, where, what to do. */
export function sentence(f: Finding, scene: Scene): string {
  const d = f.detail;
  const prop = scene.props.find((p) => p.id === d.prop)?.name ?? String(d.prop);
  const other = scene.arrangements.find((a) => a.id === d.other)?.name;
  const surface = scene.surfaces.find((s) => s.id === d.surface)?.name ?? 'The surface';
  const taken = [...scene.arrangements, ...scene.surfaces].find((n) => n.id === d.of)?.name ?? 'Something';
  const path = scene.paths.find((p) => p.id === d.path)?.name ?? 'The path';
  const source = scene.paths.find((p) => p.id === d.path)?.source;
  // Generated points are called g1, g2 … by their place.
  const nth =
    source?.kind === 'points'
      ? source.points.findIndex((p) => p.id === d.point)
      : Number(String(d.point).replace(/^\D+/, '')) - 1;
  const m = (v: unknown) => metres(Number(v), scene.units, 3);
  const node = scene.arrangements.find((a) => a.id === f.node);
  /** So many of what a row of its arrangement is called: pegs, slots, members. */
  const rows = () => plural(Number(d.count), node ? kindOf(node).noun : 'slot');
  const verb = (one: string, many: string) => (Number(d.count) === 1 ? one : many);
  const mask = scene.masks.find((k) => k.id === (d.mask ?? f.node))?.name ?? 'The mask';
  const layer = () => `Layer ${d.number} (${LAYER_NAMES[d.layer as MaskLayerKind]}) of “${mask}”`;
  switch (f.kind) {
    case 'no-path':
      return 'This run stands on no path yet. Choose one under Path, or draw one.';
    case 'path-missing':
      return 'Its path is no longer in the scene. Choose another one under Path.';
    case 'path-too-few-points':
      return `“${path}” has fewer than two points. Add a point, or choose another path.`;
    case 'path-zero-length':
      return `“${path}” has no length: its points are in one place. Move a point.`;
    case 'path-not-finite':
      return `“${path}” has a point that is no number. Type its position anew.`;
    case 'path-surface-missing':
      return source?.kind === 'points'
        ? `“${path}” lies on a surface that is not at hand. Bring the surface in again, or take the path off it in its panel.`
        : `“${path}” is taken from a surface that is not at hand. Bring the surface in again, or delete the path.`;
    case 'path-base-missing':
      return `The path that “${path}” is made from is missing or broken. Choose another one in its panel.`;
    case 'path-no-uv':
      return `The surface of “${path}” has no uv, so it has no lines of u or v. Take a border or edges instead.`;
    case 'path-nothing-there':
      return `There is nothing to take for “${path}”. Change what is taken, or by how much it is offset.`;
    case 'path-too-fine':
      return `“${path}” would have more than 20,000 points. Use fewer turns, or fewer lines.`;
    case 'path-cycle':
      return `“${path}” is made from itself${d.ring ? ` (${d.ring})` : ''}. Choose another base for one of them.`;
    case 'tie-missing':
      return `Point ${nth + 1} of “${path}” is connected to what is no longer there, so it stays where it was. Connect it again, or let it go.`;
    case 'tie-other':
      return `What point ${nth + 1} of “${path}” was connected to is gone; it hangs on the nearest of the same name. Connect it again where that is not meant.`;
    case 'sits-missing':
      return `${rows()} ${verb('sits', 'sit')} on what is no longer there, and ${verb('stays', 'stay')} where ${verb('it was', 'they were')}. Put ${verb('it', 'them')} on a snap point again, or let go.`;
    case 'sits-other':
      return `What ${rows()} sat on is gone; ${verb('it sits', 'they sit')} on the nearest of the same name. Put ${verb('it', 'them')} there anew to keep it so.`;
    case 'sits-ring':
      return `${rows()} sit on each other in a ring, and stay where they were. Let one of them go.`;
    case 'hang-short':
      return node
        ? `${rows()} ${Number(d.count) === 1 ? 'is' : 'are'} to be shorter than the way between the ends, and straight for it. Raise the length under Hanging.`
        : `The side from point ${nth + 1} of “${path}” is to be shorter than the way between its ends, and straight for it. Raise its length.`;
    case 'hang-over':
      return node
        ? `${rows()} ${verb('is', 'are')} longer than the ground that ${verb('it lies', 'they lie')} on, by up to ${m(d.distance)}; that much is not drawn. Lower the length under Hanging.`
        : `The side from point ${nth + 1} of “${path}” is longer than the ground that it lies on; what is too much is not drawn. Lower its length.`;
    case 'hang-ground':
      return `${node ? 'They are' : `“${path}” is`} to lie on a surface that is gone or broken. Choose others under Hanging, or every surface shown.`;
    case 'strands-alone':
      return 'There are no two places to hang a line between. Put more props there, or choose other pairs under Ends.';
    case 'strands-snap-missing':
      return `${plural(Number(d.count), 'line')} ${Number(d.count) === 1 ? 'has' : 'have'} an end without a snap point “${d.snap}”. Choose another one under Ends, or give the prop one of that name.`;
    case 'no-corners':
      return `“${path}” has no corners. Divide the whole, or make some of its points corners.`;
    case 'length-not-positive':
      return 'The props have no length to be laid end to end by. Raise the clearance or the size, or space by pitch.';
    case 'nothing-fits':
      return `The first prop is longer than the ${m(d.usable)} of “${path}” that it may lie on. Use a shorter prop, or make the path longer.`;
    case 'hairpin':
      return `“${path}” bends tighter than the props are long at ${m(d.s)} (radius ${m(d.radius)}, props ${m(d.length)}). Widen the bend, or use shorter props.`;
    case 'touch-uneven':
      return `“${path}” turns back so sharply that ${plural(Number(d.count), 'prop')} cannot be made to come out even; they lie at their own size, and what is left over is at the end. Widen the bend, or let the rest lie at the end.`;
    case 'too-many-strokes':
      return `“${path}” has ${whole(Number(d.count))} strokes; only the first ${d.limit} carry slots. Split it into several paths.`;
    case 'keep-out-missing':
      return `What keep-out “${d.name}” goes by is no longer in the scene. Choose another under Gaps.`;
    case 'keep-out-open':
      return `“${path}” is open, so keep-out “${d.name}” has no inside. Close the path, or choose another.`;
    case 'keep-out-crosses':
      return `“${path}” crosses itself, and what it goes round twice is not inside keep-out “${d.name}”. Move its points apart where that is not meant.`;
    case 'target-missing':
      return 'What the props look at is no longer in the scene. Choose another target under Facing.';
    case 'fillet-clipped':
      return `The fillet at point ${nth + 1} of “${path}” does not fit; ${m(d.amount)} is used. Make it smaller.`;
    case 'fillet-needs-straight-sides':
      return `The fillet at point ${nth + 1} of “${path}” needs straight sides. Make its neighbours corners.`;
    case 'coincident-points':
      return `Point ${nth + 1} of “${path}” lies on the one before it. Move or delete it.`;
    case 'no-props':
      return 'No prop yet. Drag one here from the basket, press + on one there, or add one under Props.';
    case 'order-empty':
      return 'Every weight and “times” is 0, so nothing is placed. Raise one under Props.';
    case 'prop-missing':
      return 'A prop of this run is no longer in the basket. Swap it under Props.';
    case 'mesh-missing':
      return `The mesh of “${prop}” is not at hand, so it is not drawn. Bring the file in again under the prop.`;
    case 'mesh-empty':
      if (scene.props.some((p) => p.id === d.prop && p.mesh.source === 'bundle'))
        return `“${prop}” is a bundle of nothing, so there is nothing to place. Open it and put something in, or swap it under Props.`;
      return `“${prop}” has no faces, so there is nothing to draw. Swap it under Props.`;
    case 'pitch-not-positive':
      return 'The pitch must be more than 0. Type a length such as 1.8 m.';
    case 'count-not-positive':
      return 'The count must be at least 1. Type a whole number.';
    case 'too-many-slots':
      return `${whole(Number(d.wanted))} slots are too many; the limit is ${whole(Number(d.limit))}. Use a pitch of at least ${m(Math.max(1e-6, Number(d.least) * 1.001))}.`;
    case 'no-room':
      return `The insets leave no room on ${m(d.length)} of path. Make them shorter.`;
    case 'loose-limited':
      return `Loose by is held to ± ${m(d.amount)}, so that ${Number(d.least) > 0 ? `${m(d.least)} stay between neighbours. Lower one of them` : 'neighbours keep their order. Lower it'}, or widen the pitch.`;
    case 'too-tight': {
      const first = f.slots?.[0];
      const at = first === undefined ? '' : ` at #${slotName(first)}`;
      return `${plural(Number(d.count), 'overlap')}${at}: neighbours reach into each other. Widen the pitch.`;
    }
    case 'overlap': {
      const deep = d.depth === undefined ? '' : `, the deepest by ${m(d.depth)}`;
      return other
        ? `${plural(Number(d.count), 'prop')} ${Number(d.count) === 1 ? 'reaches' : 'reach'} into “${other}”${deep}. Move one of the two, or keep them apart under Gaps.`
        : `${plural(Number(d.count), 'prop')} reach into others of these${deep}. Space them wider, or leave out what collides under Gaps.`;
    }
    case 'doubled':
      return `${plural(Number(d.count), 'prop')} ${Number(d.count) === 1 ? 'stands' : 'stand'} exactly where ${other ? `“${other}” has the same prop` : 'another of these does'}. Take one of the two out.`;
    case 'through':
      return `${plural(Number(d.count), 'prop')} ${Number(d.count) === 1 ? 'goes' : 'go'} through “${surface}”. Move one of the two, or let them stand on it under Ground.`;
    case 'buried':
      return `${plural(Number(d.count), 'prop')} ${Number(d.count) === 1 ? 'goes' : 'go'} up to ${m(d.by)} into the ground beside the foot. Let them touch by Lowest or Footprint under Ground.`;
    case 'floating':
      return `${plural(Number(d.count), 'prop')} ${Number(d.count) === 1 ? 'has' : 'have'} up to ${m(d.by)} of air beneath. Let them touch by Lowest or Footprint under Ground.`;
    case 'clip-missing':
      return `“${surface}” has no animation “${d.clip}”, so it stands still. Choose another one in its panel.`;
    case 'cloth-short':
      return `“${surface}” has so many corners that only its first ${d.seconds} s are simulated. Use fewer columns or rows.`;
    case 'cloth-line-missing':
      return `The path that “${surface}” hangs along is missing or broken, so it hangs where it lies. Choose another one under Cloth.`;
    case 'cloth-collider-missing':
      return `The surface that “${surface}” falls on is missing or broken, so it falls through. Choose another one under Cloth.`;
    case 'cloth-no-uv':
      return `“${surface}” has no uv, so its sides are not known. Hold single places of it instead.`;
    case 'sag-no-tube':
      return `“${surface}” is no tube, so it does not sag: its v has to run along it and its u around. Make a tube along a path.`;
    case 'sag-missing':
      return `${plural(Number(d.count), 'surface')} that “${surface}” lies on ${Number(d.count) === 1 ? 'is' : 'are'} missing or broken, so it falls through. Choose others under Sag.`;
    case 'leader-missing':
      return 'What they ride on is no longer in the scene. Choose another arrangement under Seat.';
    case 'ends-missing':
      return 'What the lines hang from is no longer in the scene. Choose another arrangement under Ends.';
    case 'span-snap-missing':
      return `Some posts have no snap point “${d.snap}”: members meet their foot there. Choose another under Ends.`;
    case 'span-too-short':
      return `${plural(Number(d.count), 'member')} would have no length: posts stand in one place, or closer than the ends that are left free.`;
    case 'too-many-members':
      return `There would be more than ${whole(Number(d.limit))} members. Use longer props, or stretch one from post to post.`;
    case 'posture-off-surface':
      return `“${path}” lies on no surface, so its props stand as on a slope. Lay it on one in its panel, or choose another posture.`;
    case 'sheet-no-uv':
      return `“${surface}” has no uv, so a sheet cannot lie over it. Make some under Surface, or lay the sheet from a flat frame.`;
    case 'sheet-no-columns':
      return 'A grid needs at least one column and one row. Type whole numbers, or clear the field for as many as fit.';
    case 'sheet-no-room':
      return 'The margins leave no room for the grid. Make them smaller under Layout.';
    case 'sheet-no-extent':
      return `“${surface}” has no width or no height where the sheet lies. Choose another surface, or a larger part of it.`;
    case 'sheet-missed':
      return `${plural(Number(d.count), 'prop')} lie beside the surface and are left out. Move the frame, or make the sheet smaller.`;
    case 'sheet-larger':
      return `“${prop}” is larger than the patch it should lie on. Make it smaller under Facing, or cover more of the surface.`;
    case 'sheet-stretched':
      return `${plural(Number(d.count), 'prop')} are stretched by more than ${Math.round((Number(d.area) - 1) * 100)}%, or askew by more than ${d.angle}°. Show distortion under Facing, or use true size.`;
    case 'sheet-straddles':
      return `${plural(Number(d.count), 'prop')} lie across a corner sharper than ${d.angle}°, or over the edge of the patch. Skip them, or move the grid.`;
    case 'shelf-missing':
      return d.path
        ? 'An edge that it fills is missing or broken. Choose another one under Shelves.'
        : 'A rack that it fills is no longer there. Choose another one under Shelves.';
    case 'stock-nothing':
      return 'There is no shelf to fill. Choose a front edge, or a rack, under Shelves.';
    case 'stock-no-boards':
      return 'That rack has no boards: nothing of it is level and looks up. Choose another one, or draw the front edge of a board.';
    case 'stock-no-board':
      return d.path
        ? `There is no board behind “${path}”. Give a depth under Shelves, or put the edge on the rim of a board; the board lies to the left of the way along it unless you say right.`
        : `Board ${d.board} is not deep enough to hold anything. Give a depth under Shelves.`;
    case 'stock-no-depth':
      return 'A shelf with a depth of 0 holds nothing. Give a greater depth under Shelves, or none for that of the board.';
    case 'stock-no-height':
      return `There is no clear height over board ${d.board}. Give one under Shelves, or move what is above it.`;
    case 'stock-too-many':
      return `Of ${whole(Number(d.count))} boards only ${d.most} are filled. Part them into several shelves.`;
    case 'stock-too-wide':
      return `“${prop}” is wider than an edge, so it is left out there (${plural(Number(d.count), 'time')}). Make it smaller, or the edge longer.`;
    case 'stock-too-deep':
      return `“${prop}” is deeper than a shelf, so it is left out there (${plural(Number(d.count), 'time')}). Turn it, make it smaller, or the shelf deeper.`;
    case 'stock-too-high':
      return `“${prop}” is higher than a shelf is clear, so it is left out there (${plural(Number(d.count), 'time')}). Make it smaller, give it less air, or more height.`;
    case 'area-missing':
      return d.path
        ? 'A path that it fills is missing or broken. Choose another one under Area.'
        : 'A surface that it fills is no longer in the scene, or broken. Choose another one under Area.';
    case 'area-nothing':
      return 'There is no area to fill. Choose surfaces, closed paths or a closed surface under Area.';
    case 'area-open':
      return `“${path}” is open, so nothing lies inside it. Close it in its panel, or choose another one under Area.`;
    case 'area-crosses':
      return `“${path}” crosses itself. What it goes round twice stays empty; move its points apart where that is not meant.`;
    case 'area-volume-open':
      return `“${surface}” is not closed, so its inside is a guess. Have it closed or fill its box under Area, or fill another one.`;
    case 'area-none':
      return 'Not one place lies there: rows look for ground from above, and what is far apart misses a small area. Ask for more, or for another spread.';
    case 'area-no-uv':
      return 'Rows by uv need texture coordinates, and what is filled has none. Make some in the panel of the surface, or lay the rows from above.';
    case 'area-too-many':
      return `That would be ${whole(Number(d.count))} places, more than ${whole(Number(d.limit))}. Ask for fewer, or for a distance of ${d.distance} m or more, under Spread.`;
    case 'mask-missing':
      return d.mask
        ? 'The mask that it goes by is no longer in the scene. Choose another one, or none.'
        : `${layer()} goes by something that is missing or broken. Choose another in it, or switch it off.`;
    case 'mask-picture-missing':
      return `${layer()} has no picture at hand, and lets everything pass. Choose one in it.`;
    case 'mask-no-uv':
      return `“${mask}” goes by uv, and where it is read there is none. Make uv in the panel of the surface, or take another layer.`;
    case 'mask-open':
      return `${layer()} names an open path, and nothing lies inside it. Close it in its panel, or choose another one.`;
    case 'mask-crosses':
      return `${layer()} goes by “${path}”, which crosses itself: what that goes round twice is not inside. Move its points apart where that is not meant.`;
    case 'mask-nothing':
      return `${layer()} names nothing yet. Choose what it goes by.`;
    case 'mask-refuses':
      return d.layer
        ? `“${mask}” lets nothing stand here: its layer ${d.number} (${LAYER_NAMES[d.layer as MaskLayerKind]}) is 0 everywhere. Move its beginning or its end, or switch it off.`
        : `“${mask}” lets nothing stand here: it is 0 everywhere. Change its layers, or take another one.`;
    case 'uv-overlap':
      return `Part ${d.island} of the uv of “${surface}” (${plural(Number(d.count), 'face')}) lies on part ${d.on}; only part ${d.on} is covered. Cover a smaller window, or make other uv.`;
    case 'uv-turned':
      return Number(d.island) > 0
        ? `Part ${d.island} of the uv of “${surface}” is mirrored (${plural(Number(d.count), 'face')}). What lies there is too; turn it with Flip u.`
        : `${plural(Number(d.count), 'face')} of “${surface}” are turned over in its uv. What lies there may be mirrored; make other uv.`;
    case 'surface-missing':
      return 'A surface that it stands on is no longer in the scene. Choose another one under Ground.';
    case 'surface-mesh-missing':
      return `The mesh of “${surface}” is not at hand. Bring the file in again under the surface.`;
    case 'surface-empty':
      return `“${surface}” has no faces, so nothing can stand on it. Replace its mesh.`;
    case 'surface-picture-missing':
      return `The picture of “${surface}” is not at hand. Bring the file in again under the surface.`;
    case 'surface-path-missing':
      return `A path that “${surface}” is made from is missing or broken. Choose another one in its panel.`;
    case 'surface-no-profile':
      return `The profile of “${surface}” encloses nothing. Draw it as a loop in one plane, or take a plain one.`;
    case 'surface-too-few-paths':
      return `“${surface}” needs two paths or more to run from one to the next. Add them in its panel.`;
    case 'surface-too-fine':
      return `“${surface}” would have more than 4,000,000 faces. Use fewer columns or rows.`;
    case 'solid-waits':
      return `What joins “${surface}” is still being loaded.`;
    case 'solid-nothing':
      return `Nothing is left of “${surface}”. Join something first, or switch a step off that takes all of it away.`;
    case 'solid-missing':
      return `Something that “${surface}” is made from is no longer in the scene. Choose another one in its steps, or take the step out.`;
    case 'solid-open':
      return `${plural(Number(d.count), 'mesh', 'meshes')} of “${taken}” ${verb('is', 'are')} not closed (${plural(Number(d.edges), 'open edge')}) and left out of “${surface}”. Mend the step, by its faces or with voxels.`;
    case 'solid-unsound':
      return `${plural(Number(d.count), 'mesh', 'meshes')} of “${taken}” ${verb('has', 'have')} faces that do not agree, or more than two at an edge, and ${verb('is', 'are')} left out of “${surface}”. Mend the step, by its faces or with voxels.`;
    case 'solid-inside-out':
      return `${plural(Number(d.count), 'mesh', 'meshes')} of “${taken}” ${verb('is', 'are')} inside out and left out of “${surface}”. Mend the step by its faces.`;
    case 'solid-crossing':
      return `${plural(Number(d.count), 'mesh', 'meshes')} of “${taken}” ${verb('goes', 'go')} through ${verb('itself', 'themselves')}, and what crosses may stay within “${surface}”. Mend the step with voxels.`;
    case 'solid-many-cells':
      return `“${taken}” would need more than a million voxels in “${surface}”. Make them larger.`;
    case 'network-missing':
      return `A path of “${surface}” is missing or broken. Choose another one in its panel.`;
    case 'network-near':
      return `Lines of “${surface}” nearly meet at ${plural(Number(d.count), 'place')}; the nearest are ${m(d.apart)} apart. Make its reach longer to join them there.`;
    case 'dust-missing':
      return `Something that “${surface}” lies over is no longer in the scene. Choose another one in its panel.`;
    case 'dust-nothing':
      return `There is nothing for “${surface}” to lie over. Choose arrangements or surfaces in its panel.`;
    case 'dust-fine':
      return `“${surface}” would be more than 1,000 squares along a side, or too fine for so long a distance. Make it coarser.`;
    case 'thickness-none':
      return `“${surface}” is to be thick, but by nothing. Type how far outwards or inwards, or take its thickness away.`;
    case 'too-thick':
      return `“${surface}” is bent more tightly than it is thick: ${plural(Number(d.count), 'face')} of its sides are turned over. Make it thinner, or smoother there.`;
    case 'no-ground':
      return 'There is no surface to stand on. Bring one in, or set Ground to none.';
    case 'ground-missed': {
      const what = { keep: 'They stay where they were.', floor: 'They stand on the floor height.' }[
        String(d.missed)
      ];
      return `${plural(Number(d.count), 'prop')} found no ground. ${what ?? 'They are left out.'} Choose more surfaces, or another direction.`;
    }
    case 'ground-along':
      return `${plural(Number(d.count), 'prop')} land along the surface, nearly edge on. Choose another direction under Ground.`;
    case 'pin-found':
      return `${Number(d.count) > 0 ? rows() : 'Its frame'} ${Number(d.count) > 1 ? 'were' : 'was'} found again on “${surface}”, whose faces are others now, up to ${m(d.distance)} from before. ${Number(d.count) > 0 ? 'Look them over, and pin or lock them anew to keep them so.' : 'Look it over, and place it anew to keep it so.'}`;
    case 'pin-lost':
      return `${rows()} could not be found again on “${surface}” and stay where they were. Put them there by hand.`;
    case 'stamps-cards':
      return `${plural(Number(d.count), 'stamp')} ${Number(d.count) === 1 ? 'lies on no surface with uv and is drawn as a flat card' : 'lie on no surface with uv and are drawn as flat cards'}. Stand ${Number(d.count) === 1 ? 'it' : 'them'} on a surface under Ground, or give that uv under its Faces.`;
    case 'pin-surface-missing':
      return `${rows()} stand on a surface that is gone or broken, and stay where they were. Pin or lock them anew, or mend it.`;
    case 'release-waits':
      return 'Its props are to fall, and what moves them is not loaded. Load the page again.';
    case 'release-many':
      return `${whole(Number(d.count))} props are too many to fall at once: ${whole(Number(d.most))} is the most, and none was let go. Release them by parts, or place fewer.`;
    case 'release-inside':
      return `${rows()} were inside something when they were let go, and were parted gently. Set them farther apart, or release them one after the other.`;
    case 'release-lost':
      return `${rows()} fell onto nothing and stopped at ${m(d.floor)}. Put a surface below them, or choose it under Release.`;
    case 'release-restless':
      return `${rows()} were still moving after ${Number(d.seconds).toFixed(1)} s and are held there. Give them longer under Release, or more friction.`;
    case 'release-shaped':
      return `${rows()} have a shape made for their place and stay there. Let them keep their shape, and they fall too.`;
    case 'release-region':
      return 'Its props fall as they leave closed paths, and there is none. Choose one under Release.';
    case 'release-missing':
      return `${plural(Number(d.count), 'thing')} that its props fall onto, or leave, ${verb('is', 'are')} no longer there. Choose others under Release.`;
    case 'release-against':
      return `${whole(Number(d.count))} props of other arrangements are more than can be fallen on, and are passed through. Choose fewer under Release.`;
    case 'pulley-open':
      return `“${surface}” does not close along ${d.way}, so its pulley cannot turn. Close its path, or let it go round along ${d.way === 'v' ? 'u' : 'v'}.`;
    case 'poses-none':
      return 'Its props are to play their animations, and bring none along. Bring in a file with animations, or take Poses away.';
    case 'poses-no-clip':
      return `None of its props has an animation “${d.clip}”: each plays its first one. Choose another under Poses.`;
    case 'poses-still':
      return 'The animation that its props play moves nothing of them. Choose another under Poses.';
    case 'travel-no-surface':
      return 'It is to travel over a surface, and stays: there is none. Choose one under Travel.';
    case 'travel-no-path':
      return 'It is to travel along a path, and stays: there is none. Choose one under Travel.';
    case 'travel-no-uv':
      return `“${surface}” has no uv to travel over. Make some under Surface, or let it travel along a path.`;
    case 'travel-shaped':
      return 'Props that are bent for their place travel as they are bent there. Let them keep their shape, or move them along with the pulley.';
    case 'link-broken':
      return `A number of it (${d.field}) is taken from what is no longer there: ${showLink(String(d.expression), scene)}. The last one serves; type another, or take it anew.`;
    case 'link-ring':
      return `A number of it (${d.field}) is taken from what waits for itself: ${showLink(String(d.expression), scene)}. The last one serves; take it from something else.`;
    case 'link-no-field':
      return `It has no number ${d.field} any more that could be ${showLink(String(d.expression), scene)}. Nothing is lost: undo what took it away, or take the number anew.`;
    case 'timed-no-field':
      return `It has no number ${d.field} any more that could change with time. Nothing is lost: undo what took it away, or take its moments away in the time bar.`;
    case 'cycle':
      return `It waits for itself (${d.ring}). Take one of these off the other.`;
    case 'failed':
    case 'path-failed':
      return 'It could not be worked out: something in it is beyond what can be computed. Undo the last change; the rest of the scene goes on.';
  }
}

export const REASON: Record<GapReason, string> = {
  placed: 'placed',
  pause: 'pause in the order',
  chance: 'left out by chance',
  'keep-out': 'in a keep-out',
  hand: 'removed by hand',
  taken: 'taken',
  'past-end': 'past the end of the path',
  collision: 'would collide',
  missed: 'no ground',
  skipped: 'skipped',
  fallen: 'gone after its fall',
};
