import { expect, type Page } from '@playwright/test';
import {
  axes,
  choose,
  hang,
  newScene,
  onScreen,
  openExample,
  openStep,
  pickOption,
  rows,
  sendOut,
  settled,
  takeProps,
  type,
  undo,
  type Row,
} from './support/app';
import { test } from './support/test';
import { standing } from './support/glb';

/** Members from post to post. */

const of = (list: Row[], arrangement: string) =>
  list.filter((r) => r.arrangement === arrangement && r.state === 'placed');
/** Half a rail's own length: it is 1.6 m long. */
const HALF = 0.8;
const ends = (r: Row) => {
  const { front } = axes(r);
  return [-1, 1].map((way) => [r.x, r.y, r.z].map((v, k) => v + front[k] * HALF * r.sz * way));
};

test('straight beams round an opening: from divisions per quadrant, meeting exactly; repeated, left out, brought back', async ({
  page,
}) => {
  await newScene(page);
  await choose(page, 'New path or surface', 'Circle');
  await settled(page);
  await type(page.getByLabel('Radius', { exact: true }), '4');
  for (const axis of ['X', 'Z']) await type(page.getByLabel(`Position ${axis}`, { exact: true }), '0');
  await takeProps(page, 'Bollard', 'Rail');
  await hang(page, 'Bollard');
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Divide' }).click();
  await spacing.getByRole('radio', { name: 'Quadrant' }).click();
  await type(spacing.getByLabel('Parts', { exact: true }), '4');
  await type(spacing.getByLabel('Take every', { exact: true }), '2');
  await settled(page);
  await choose(page, 'More for this run', 'Add spans');
  await settled(page);
  const list = await rows(page);
  const [posts, beams] = [of(list, 'Bollard'), of(list, 'Between Bollard')];
  expect(posts.length).toBe(8);
  expect(beams.length).toBe(8);
  const side = 2 * 4 * Math.sin(Math.PI / 8);
  beams.forEach((beam, i) => {
    expect(beam.sz * 1.6).toBeCloseTo(side, 3);
    const [from, to] = ends(beam);
    const next = ends(beams[(i + 1) % 8])[0];
    to.forEach((v, k) => expect(v).toBeCloseTo(next[k], 6));
    // Over the post that it leaves.
    expect(from[0]).toBeCloseTo(posts[i].x, 6);
    expect(from[1]).toBeGreaterThan(0.2);
  });

  // Both ends dragged up in the flat view.
  const dot = page.getByTestId('span').getByRole('button', { name: 'Where it leaves its post' });
  const box = (await dot.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.keyboard.down('Shift');
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 - 25, { steps: 3 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await settled(page);
  const raised = of(await rows(page), 'Between Bollard');
  raised.forEach((beam, i) => {
    expect(beam.y).toBeGreaterThan(beams[i].y + 0.05);
    expect(ends(beam)[0][1]).toBeCloseTo(ends(beam)[1][1], 6);
  });

  // Repeated: as many as come nearest to a rail's own length.
  const members = await openStep(page, 'Members');
  await members.getByRole('radio', { name: 'Repeat' }).click();
  await settled(page);
  const repeated = of(await rows(page), 'Between Bollard');
  expect(repeated.length).toBe(8 * Math.round(side / 1.6));
  // Whole ones of 1.6 m and the last one cut; then a corner piece at every post, for all of them turn.
  await members.getByRole('radio', { name: 'Cut' }).click();
  await settled(page);
  expect(of(await rows(page), 'Between Bollard').length).toBe(8 * Math.ceil(side / 1.6));
  await members.getByRole('radio', { name: 'Stretch' }).click();
  await pickOption(page, members, 'Corner piece', 'Bollard');
  await settled(page);
  const pieces = of(await rows(page), 'Between Bollard').filter((r) => r.prop === 'Bollard');
  expect(pieces.length).toBe(8);
  await pickOption(page, members, 'Corner piece', 'none');

  // Bent along the circle every beam lies on it with its whole length, and meets the next one.
  await members.getByRole('switch', { name: 'Along the path' }).click();
  await settled(page);
  const bent = (await standing(await sendOut(page, 'glb'))).filter((s) => s.mesh.startsWith('Rail'));
  expect(bent.length).toBe(8);
  for (const { points } of bent) {
    const off = points.map(([x, , z]) => Math.hypot(x, z) - 4);
    expect(Math.max(...off)).toBeCloseTo(0.03, 3);
    expect(Math.min(...off)).toBeCloseTo(-0.03, 3);
  }
  await members.getByRole('switch', { name: 'Along the path' }).click();

  // Trimmed: as long as it is, and cut off over a shorter way.
  await members.getByRole('radio', { name: 'Trim' }).click();
  await settled(page);
  const lengths = async () =>
    (await standing(await sendOut(page, 'glb')))
      .filter((s) => s.mesh.startsWith('Rail'))
      .map(({ points }) => Math.max(...points.map((p) => Math.hypot(...p.map((v, k) => v - points[0][k])))));
  const diagonal = (long: number) => Math.hypot(long, 0.06, 0.09);
  for (const long of await lengths()) expect(long).toBeCloseTo(diagonal(1.6), 4);
  await page.getByRole('button', { name: /^Bollard Run/ }).click();
  await type(spacing.getByLabel('Take every', { exact: true }), '1');
  await settled(page);
  const short = await lengths();
  expect(short.length).toBe(16);
  for (const long of short) expect(long).toBeCloseTo(diagonal(2 * 4 * Math.sin(Math.PI / 16)), 4);
  await type(spacing.getByLabel('Take every', { exact: true }), '2');
  await page.getByRole('button', { name: /^Between Bollard Spans/ }).click();
  await members.getByRole('radio', { name: 'Stretch' }).click();
  await settled(page);

  // A post taken away by hand takes the members on both its sides along.
  await page.getByRole('button', { name: /^Bollard Run/ }).click();
  await page.locator('[data-slot]').nth(2).click();
  await settled(page);
  expect(of(await rows(page), 'Between Bollard').length).toBe(6);
  await page.keyboard.press('Control+z');
  await settled(page);
  expect(of(await rows(page), 'Between Bollard').length).toBe(8);
});

const left = async (page: Page) => of(await rows(page), 'Upper rails').length;

test('rails over the dunes follow the real tops of their posts; one is left out and brought back', async ({
  page,
}) => {
  await openExample(page, 'Rope fence');
  const list = await rows(page);
  const [posts, rails] = [of(list, 'Posts'), of(list, 'Upper rails')];
  expect(rails.length).toBe(posts.length - 2);
  for (const rail of rails) {
    const i = posts.findIndex((p) => p.slot === rail.slot);
    ends(rail).forEach((end, k) => {
      const post = posts[i + k];
      const { up } = axes(post);
      // 0.78 m along the post's own up, with its own height.
      [post.x, post.y, post.z].forEach((v, a) => expect(end[a]).toBeCloseTo(v + 0.78 * post.sy * up[a], 5));
    });
  }
  await page.getByRole('button', { name: /^Upper rails Spans/ }).click();
  const hand = await openStep(page, 'By hand');
  await hand.getByRole('button', { name: 'Let go of #11' }).click();
  await settled(page);
  expect(await left(page)).toBe(posts.length - 1);
});

test('rails meet the chosen snap points of their posts, and follow a point that is moved', async ({
  page,
}) => {
  await newScene(page);
  await choose(page, 'New path or surface', 'Circle');
  await settled(page);
  await takeProps(page, 'Rope post', 'Rail');
  await hang(page, 'Rope post');
  await choose(page, 'More for this run', 'Add spans');
  await settled(page);
  const step = await openStep(page, 'Ends');
  for (const end of ['Leaves a post at', 'Meets the next at']) await pickOption(page, step, end, 'top');
  const heights = async () =>
    of(await rows(page), 'Between Rope post').flatMap((r) => ends(r).map((e) => e[1]));
  await settled(page);
  const first = await heights();
  expect(first.length).toBeGreaterThan(8);
  // The post's own top is 0.76 m over its foot.
  for (const y of first) expect(y).toBeCloseTo(0.76, 5);
  await page.getByRole('button', { name: 'Rope post', exact: true }).click();
  await type(page.getByRole('group', { name: 'Snap points' }).getByLabel('top Y', { exact: true }), '0.5');
  await settled(page);
  for (const y of await heights()) expect(y).toBeCloseTo(0.5, 5);
  // The foot in its middle: the post sinks by half, and the point stays where it is on it.
  const size = await page.getByText('Wide × long × high').innerText();
  const high = Number(/× ([\d.]+) m$/.exec(size)![1]);
  await pickOption(page, page, 'Foot', 'Centre');
  await settled(page);
  for (const y of await heights()) expect(y).toBeCloseTo(0.5 - high / 2, 2);
  const snap = page.getByRole('group', { name: 'Snap points' }).getByLabel('top Y', { exact: true });
  expect(Number(await snap.inputValue())).toBeCloseTo(0.5 - high / 2, 2);
});

test('members over the divisions of a path, without posts; a drawn line snaps to their ends, middles, parts and axes', async ({
  page,
}) => {
  await newScene(page);
  await choose(page, 'New path or surface', 'Circle');
  await settled(page);
  await type(page.getByLabel('Radius', { exact: true }), '4');
  for (const axis of ['X', 'Z']) await type(page.getByLabel(`Position ${axis}`, { exact: true }), '0');
  await takeProps(page, 'Rail');
  // By the words that people have for it; the menu of a path and + beside Arrangements have it too.
  await page.getByRole('button', { name: /^Circle Path/ }).click();
  await page.keyboard.press('Control+k');
  await page.getByLabel('Search the commands').fill('beams divide');
  await page.keyboard.press('Enter');
  await settled(page);
  const posts = await openStep(page, 'Posts');
  await posts.getByRole('radio', { name: 'Quadrant' }).click();
  await type(posts.getByRole('textbox', { name: 'Parts' }), '2');
  await settled(page);
  const beams = of(await rows(page), 'Along Circle');
  expect(beams.length).toBe(8);
  for (const beam of beams) {
    expect(beam.sz * 1.6).toBeCloseTo(8 * Math.sin(Math.PI / 8), 4);
    for (const [x, , z] of ends(beam)) expect(Math.hypot(x, z)).toBeCloseTo(4, 4);
  }
  await type(posts.getByRole('textbox', { name: 'To the n-th after' }), '2');
  await settled(page);
  const wide = of(await rows(page), 'Along Circle');
  expect(wide[0].sz * 1.6).toBeCloseTo(8 * Math.sin(Math.PI / 4), 4);
  await undo(page);
  await settled(page);

  // Its own path is put away: the pointer is to mean the members.
  await page.getByRole('button', { name: 'Hide Circle' }).click();
  await page.getByRole('button', { name: 'Draw path' }).click();
  const [a, b] = ends(beams[0]);
  const between = (t: number) => a.map((v, k) => v + (b[k] - v) * t) as [number, number, number];
  const shows = async (t: number, label: RegExp) => {
    const at = await onScreen(page, between(t));
    await page.mouse.move(at.x + 2, at.y + 1);
    await expect(page.locator('[data-snap]')).toHaveAttribute('data-snap', label);
  };
  await shows(1, /^End of Along Circle #\d+/);
  await shows(0.5, /^Middle of Along Circle #\d+/);
  await shows(0.22, /^On the axis of Along Circle #\d+/);
  await page.keyboard.press('3');
  await shows(1 / 3, /^1\/3 of Along Circle #\d+/);
  const at = await onScreen(page, between(1 / 3));
  await page.mouse.click(at.x + 2, at.y + 1);
  await shows(1, /^End of Along Circle/);
  const end = await onScreen(page, b as [number, number, number]);
  await page.mouse.click(end.x + 2, end.y + 1);
  await page.keyboard.press('Enter');
  await settled(page);
  const long = Math.hypot(...a.map((v, k) => v - b[k])) * (2 / 3);
  await expect(page.getByText(new RegExp(`${long.toFixed(2)} m`)).first()).toBeVisible();
});
