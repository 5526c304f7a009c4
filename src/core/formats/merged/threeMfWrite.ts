import { strToU8, zipSync } from 'fflate';
import { byPlace } from './corners';
import { cornerColors } from './cornerColors';
import type { MergedPart } from './parts';

/** A date in the archive would make the same scene another file each time: the earliest that the format knows. */
const MTIME = new Date(1980, 0, 1);

const TYPES = `<?xml version="1.0" encoding="UTF-8"?>
<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>`;
const RELATIONS = `<?xml version="1.0" encoding="UTF-8"?>
<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/3D/3dmodel.model" Id="model" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>`;

const ESCAPED: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
// What XML 1.0 has no way to say at all is left out.
const text = (s: string): string =>
  s
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
    .replace(/[&<>"]/g, (c) => ESCAPED[c]);

/**
 * A 3MF package (core specification 1.3 with the materials extension): millimetres, an object a part with its name, the
 * colour of every corner. Vertices in one place are one, as the format asks of what is to be closed.
 */
export function writeThreeMf(parts: readonly MergedPart[], title: string): Uint8Array {
  const colors = new Map<string, number>();
  const hex = (rgb: readonly number[]): string =>
    `#${rgb
      .map((c) =>
        Math.round(c * 255)
          .toString(16)
          .padStart(2, '0'),
      )
      .join('')}FF`.toUpperCase();
  const colorAt = (rgb: readonly number[]): number => {
    const key = hex(rgb);
    let at = colors.get(key);
    if (at === undefined) colors.set(key, (at = colors.size));
    return at;
  };
  const objects = parts.map(({ name, mesh }, i) => {
    const { places, corners, face } = byPlace(mesh);
    const colorOf = cornerColors(mesh);
    const out = [`<object id="${i + 2}" type="model" name="${text(name)}"><mesh><vertices>`];
    for (let o = 0; o < places.length; o += 3)
      out.push(`<vertex x="${places[o]}" y="${places[o + 1]}" z="${places[o + 2]}"/>`);
    out.push('</vertices><triangles>');
    face.forEach((from, f) => {
      const [p1, p2, p3] = [0, 1, 2].map((k) => colorAt(colorOf(from * 3 + k)));
      const [v1, v2, v3] = corners.subarray(f * 3, f * 3 + 3);
      const painted = p1 === p2 && p2 === p3 ? `p1="${p1}"` : `p1="${p1}" p2="${p2}" p3="${p3}"`;
      out.push(`<triangle v1="${v1}" v2="${v2}" v3="${v3}" pid="1" ${painted}/>`);
    });
    out.push('</triangles></mesh></object>');
    return out.join('\n');
  });
  const group = [...colors.keys()].map((c) => `<m:color color="${c}"/>`).join('');
  const model = [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<model unit="millimeter" xml:lang="en" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02" xmlns:m="http://schemas.microsoft.com/3dmanufacturing/material/2015/02">',
    `<metadata name="Title">${text(title)}</metadata><metadata name="Application">Clothesline</metadata>`,
    `<resources><m:colorgroup id="1">${group}</m:colorgroup>`,
    ...objects,
    `</resources><build>${parts.map((_, i) => `<item objectid="${i + 2}"/>`).join('')}</build></model>`,
  ].join('\n');
  return zipSync(
    {
      '[Content_Types].xml': strToU8(TYPES),
      '_rels/.rels': strToU8(RELATIONS),
      '3D/3dmodel.model': strToU8(model),
    },
    { level: 6, mtime: MTIME },
  );
}
