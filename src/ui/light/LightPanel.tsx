'use client';

import { LIGHTS, type LightName } from '@/core/light/presets';
import { LIGHT_NODE, type Light } from '@/core/light/schema';
import { sunShare, sunWay } from '@/core/light/sun';
import { setExposure, setFinish, setSky, setSun, startLight } from '@/store/commands/light';
import { dispatch, useDocument } from '@/store/document';
import { BesidePanel, Pill } from '../controls/BesidePanel';
import { ColorField } from '../controls/ColorField';
import { LinkScope } from '../controls/LinkScope';
import { NumberFields, type FieldSpec } from '../controls/NumberFields';
import { Segmented } from '../controls/Segmented';
import { Toggle } from '../controls/Toggle';
import { angle, plain, share, warmth } from './fields';
import { OwnLights } from './OwnLights';
import { SunPad } from './SunPad';
import { SurroundFields } from './SurroundFields';

const NAMES: { name: LightName; text: string; hint: string }[] = [
  { name: 'day', text: 'Day', hint: 'A clear afternoon' },
  { name: 'evening', text: 'Evening', hint: 'A low, warm sun' },
  { name: 'overcast', text: 'Overcast', hint: 'Hardly a shadow' },
  { name: 'night', text: 'Night', hint: 'By the moon' },
];
const BY = [
  { value: 'angles', text: 'Compass' },
  { value: 'hour', text: 'Hour' },
] as const;
const SKY = [
  { key: 'overhead', label: 'Overhead', hint: 'What the sky looks like straight above' },
  { key: 'horizon', label: 'Horizon', hint: 'What it looks like where it ends' },
  { key: 'ground', label: 'Ground', hint: 'What the ground throws back from below' },
] as const;

const { sun: DAY } = LIGHTS.day;
const PLACED: Record<Light['sun']['by'], FieldSpec[]> = {
  angles: [
    angle('compassDeg', 'Compass', DAY.compassDeg, 'Degrees clockwise from north', -3600, 3600),
    angle('heightDeg', 'Height', DAY.heightDeg, 'Degrees over the horizon', -90, 90),
  ],
  hour: [
    plain('hour', 'Hour', DAY.hour, 'Of the sun: at 12 it is highest', 0.25, 0, 24),
    plain('day', 'Day of the year', DAY.day, '81 is the equinox, 172 midsummer in the north', 1, 1, 366),
    angle('latitudeDeg', 'Latitude', DAY.latitudeDeg, 'Degrees north of the equator', -90, 90),
  ],
};
const SUN: FieldSpec[] = [
  share('strength', 'Strength', 'How much light it gives; 100 is a clear day'),
  warmth(DAY.warmth),
  angle(
    'softDeg',
    'Softness',
    DAY.softDeg,
    'Degrees that its disc is wide: wider throws softer shadows',
    0,
    60,
  ),
];

const HALO: FieldSpec = {
  ...plain('halo', 'Halo', 0, 'How much of what is brighter than white spreads around it', 0.05, 0, 10),
  dimension: 'percent',
};
const REACH: FieldSpec = {
  ...plain('haloReach', 'Reach of the halo', 0.5, '0 keeps close, 100 spreads wide', 0.05, 0, 1),
  dimension: 'percent',
};

/** How the scene is lit: what to begin with, its sun, its sky, and how bright the picture is. */
export function LightPanel() {
  const light = useDocument((s) => s.scene.light);
  const readOnly = useDocument((s) => s.readOnly !== null);
  return (
    <BesidePanel name="Light" title="Light" said={light ? 'The scene’s own' : 'As the interface'}>
      <fieldset disabled={readOnly} className="flex flex-wrap gap-1.5 border-b border-edge px-3 py-2">
        {NAMES.map(({ name, text, hint }) => (
          <Pill
            key={name}
            pressed={light !== null && isLitAs(light, LIGHTS[name])}
            hint={hint}
            onClick={() => dispatch(startLight, { name })}
          >
            {text}
          </Pill>
        ))}
        <Pill
          pressed={light === null}
          hint="By day or at dusk, as the interface is"
          onClick={() => light && dispatch(startLight, { name: null })}
        >
          As the interface
        </Pill>
      </fieldset>
      <fieldset disabled={readOnly} className="thin-scroll min-h-0 flex-1 overflow-y-auto px-3 py-2">
        <OwnLights />
        {light ? (
          <Own light={light} />
        ) : (
          <p className="py-1 text-[13px] text-soft">
            It is lit as the interface is: by day, or at dusk. Choose a light to begin with; it is kept in the
            scene.
          </p>
        )}
      </fieldset>
    </BesidePanel>
  );
}

/** Whether sun and sky are those of another light. */
const isLitAs = (light: Light, { sun, sky, exposure }: Light): boolean =>
  JSON.stringify([light.sun, light.sky, light.exposure]) === JSON.stringify([sun, sky, exposure]);

/** Where the sun stands, in words. */
function standing(sun: Light['sun']): string {
  const [x, up, z] = sunWay(sun);
  const high = Math.round((Math.asin(Math.max(-1, Math.min(1, up))) * 180) / Math.PI);
  const compass = Math.round(((Math.atan2(x, -z) * 180) / Math.PI + 360) % 360);
  if (sunShare(up) === 0) return 'It is below the horizon, and gives no light.';
  return `It stands ${high}° high, ${compass}° from north.`;
}

function Own({ light: { sun, sky, surround, halo, haloReach, metered, exposure } }: { light: Light }) {
  const toSun = (values: Partial<Light['sun']>, key?: string) => dispatch(setSun, values, key);
  return (
    <LinkScope node={LIGHT_NODE} at="">
      <section aria-label="Sun">
        <h3 className="font-display text-sm font-semibold">Sun</h3>
        <Segmented
          shown
          label="Placed by"
          hint="By compass and height, or by the hour of a day"
          value={sun.by}
          options={BY}
          onChange={(by) => toSun({ by })}
        />
        {sun.by === 'angles' && (
          <SunPad compassDeg={sun.compassDeg} heightDeg={sun.heightDeg} onMove={toSun} />
        )}
        <p className="text-[12.5px] text-soft">{standing(sun)}</p>
        <NumberFields within="sun" fields={[...PLACED[sun.by], ...SUN]} values={sun} set={toSun} />
      </section>
      <section aria-label="Sky" className="mt-2">
        <h3 className="font-display text-sm font-semibold">Sky</h3>
        <NumberFields
          within="sky"
          fields={[share('brightness', 'Brightness', 'How much light it gives; 100 is a clear day')]}
          values={sky}
          set={(values, key) => dispatch(setSky, values, key)}
        />
        {SKY.map(({ key, label, hint }) => (
          <ColorField
            key={key}
            label={label}
            hint={hint}
            value={sky[key]}
            onChange={(color) => dispatch(setSky, { [key]: color }, `sky ${key}`)}
          />
        ))}
      </section>
      <SurroundFields surround={surround} />
      <section aria-label="Picture" className="mt-2">
        <h3 className="font-display text-sm font-semibold">Picture</h3>
        <Toggle
          label="Measure the exposure"
          hint="As bright as a camera’s meter would have it, measured when nothing moves"
          value={metered}
          onChange={(on) => dispatch(setFinish, { metered: on })}
        />
        <NumberFields
          within=""
          fields={[
            plain(
              'exposure',
              'Exposure',
              1,
              'How bright the picture is: twice is one stop more',
              0.05,
              0.001,
              1000,
            ),
          ]}
          values={{ exposure }}
          set={(values, key) => dispatch(setExposure, { exposure: values.exposure }, key)}
        />
        <NumberFields
          within=""
          fields={halo > 0 ? [HALO, REACH] : [HALO]}
          values={{ halo, haloReach }}
          set={(values, key) => dispatch(setFinish, values, key)}
        />
      </section>
    </LinkScope>
  );
}
