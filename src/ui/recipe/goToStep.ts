/** The steps of recipes by the words that people have for what is in them. */
export const STEP_WORDS: { title: string; words: string }[] = [
  { title: 'Props', words: 'order pattern mix weights groups pause' },
  { title: 'Path', words: 'curve spline along' },
  { title: 'Surface', words: 'patch uv frame projection' },
  { title: 'Area', words: 'scatter surfaces region boundary volume inside' },
  { title: 'Spread', words: 'scatter density amount distribute even poisson random clumps grid' },
  { title: 'Shelves', words: 'stock rack board edge level depth height' },
  { title: 'Filling', words: 'stock deep high stack rows facings air depth planogram' },
  { title: 'Taken', words: 'stock sold out shopped missing front top' },
  { title: 'Layout', words: 'grid columns rows margins stagger' },
  { title: 'Spacing', words: 'pitch count distance divide density insets rows end to end' },
  { title: 'Facing', words: 'rotation orientation heading posture turn lean bend size' },
  { title: 'Ground', words: 'land hug drop snap to ground contact sink' },
  { title: 'Variation', words: 'random jitter seed scatter tint waver' },
  { title: 'Gaps', words: 'chance keep-out holes missing collide' },
  { title: 'By hand', words: 'corrections overrides nudged swapped' },
  { title: 'Posts', words: 'spans between leader' },
  { title: 'Ends', words: 'spans snap points' },
  { title: 'Members', words: 'spans stretched repeated trimmed' },
  { title: 'Seat', words: 'riders offset point' },
  { title: 'Landing', words: 'riders as one leader' },
  { title: 'Places', words: 'pegs coordinates positions' },
  { title: 'Arrange', words: 'pegs copies mirrored' },
  { title: 'Lines', words: 'pattern drawing svg' },
  { title: 'Poses', words: 'animation clip play walk cycle loop idle crowd phase' },
  { title: 'Travel', words: 'move slide over along turn rotate speed animate steer border' },
  { title: 'Release', words: 'falls friction bounce at rest' },
  { title: 'Checks', words: 'overlaps problems warnings issues' },
];

const stepOf = (title: string): Element | null =>
  document.querySelector(`[aria-label="Recipe"] section[aria-label="${title}"]`);

/** Whether what is in hand has that step. */
export const hasStep = (title: string): boolean => stepOf(title) !== null;

/** Opens a step of the recipe in hand and puts the cursor into its first field. */
export function goToStep(title: string): void {
  const head = stepOf(title)?.querySelector<HTMLElement>('button');
  if (!head) return;
  if (head.getAttribute('aria-expanded') !== 'true') head.click();
  focusIn(title, 60);
}

/** The list of commands gives the focus back as it closes: the field is given it until it has it for two frames. */
function focusIn(title: string, tries: number, held = 0): void {
  if (tries === 0 || held === 2) return;
  const step = stepOf(title);
  const field =
    step?.querySelector<HTMLElement>('input:enabled, [role="switch"]') ??
    step?.querySelector<HTMLElement>('button') ??
    null;
  const has = field !== null && field === document.activeElement;
  if (!has) field?.focus();
  // What the step holds is to be seen too, not just its first field.
  if (held === 1) step?.scrollIntoView({ block: 'nearest' });
  requestAnimationFrame(() => focusIn(title, tries - 1, has ? held + 1 : 0));
}
