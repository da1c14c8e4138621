// Makes the compact object table from the open data package: npm run catalogue
import { readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const source = dirname(createRequire(import.meta.url).resolve('d3-celestial/package.json'));

interface Feature {
  readonly id: string;
  readonly properties: {
    readonly desig: string;
    readonly type: string;
    readonly mag: string | number;
    readonly dim: string;
  };
  readonly geometry: { readonly coordinates: readonly [number, number] };
}

const KINDS: Readonly<Record<string, string>> = {
  gg: 'galaxy cluster',
  g: 'galaxy',
  s: 'spiral galaxy',
  s0: 'lenticular galaxy',
  sd: 'dwarf galaxy',
  e: 'elliptical galaxy',
  i: 'irregular galaxy',
  oc: 'open cluster',
  gc: 'globular cluster',
  dn: 'dark nebula',
  bn: 'bright nebula',
  sfr: 'star-forming region',
  rn: 'reflection nebula',
  en: 'emission nebula',
  pn: 'planetary nebula',
  snr: 'supernova remnant',
};

const { features } = JSON.parse(readFileSync(join(source, 'data/dsos.14.json'), 'utf8')) as { features: Feature[] };
const names = JSON.parse(readFileSync(join(source, 'data/dsonames.json'), 'utf8')) as Record<string, { name?: string }>;

const finite = (value: string | number): number | null =>
  Number(value) > -30 && Number(value) < 90 && value !== '' ? Number(value) : null;
const side = (dim: string): number | null => Number(/^[\d.]+/.exec(dim)?.[0]) || null;

interface Border {
  readonly id: string;
  readonly geometry: { readonly coordinates: readonly (readonly (readonly [number, number])[])[] };
}
const borders = (
  JSON.parse(readFileSync(join(source, 'data/constellations.bounds.json'), 'utf8')) as { features: Border[] }
).features;

const POLAR = ['UMi', 'Oct'];
const rings = borders.filter(({ id }) => !POLAR.includes(id));

/** The constellation a place lies in: that of no ring is a polar one. Borders run along circles of 1875; between their corners right ascension is taken as linear. */
function constellationAt(raDeg: number, decDeg: number): string {
  const isInside = ({ geometry: { coordinates } }: Border): boolean => {
    const [ring] = coordinates;
    let crossings = 0;
    let last = apart(ring[0][0], raDeg);
    for (let i = 1; i <= ring.length; i++) {
      const [[, dec0], [ra1, dec1]] = [ring[i - 1], ring[i % ring.length]];
      // Followed around from corner to corner, so that a ring across the seam stays whole.
      const next = last + apart(ra1, raDeg + last);
      for (const turn of [-360, 0, 360])
        if (last + turn > 0 !== next + turn > 0 && dec0 + ((dec1 - dec0) * (last + turn)) / (last - next) > decDeg)
          crossings += 1;
      last = next;
    }
    return crossings % 2 === 1;
  };
  const [north, south] = POLAR;
  return rings.find(isInside)?.id.slice(0, 3) ?? (decDeg > 0 ? north : south);
}
const apart = (raDeg: number, fromDeg: number): number => ((((raDeg - fromDeg + 180) % 360) + 360) % 360) - 180;

const rows = features
  .map(({ id, properties: { desig, type, mag, dim }, geometry: { coordinates } }) => {
    const name = names[id]?.name ?? names[desig]?.name ?? null;
    const [ra, dec] = coordinates;
    return [
      desig,
      id === desig ? null : id,
      name,
      KINDS[type] ?? type,
      finite(mag),
      side(dim),
      Number(((ra + 360) % 360).toFixed(4)),
      Number(dec.toFixed(4)),
      constellationAt(ra, dec),
    ];
  })
  .sort((a, b) => String(a[0]).localeCompare(String(b[0]), 'en', { numeric: true }));
writeFileSync(
  join(root, 'packages/server/catalogue/objects.json'),
  `[\n${rows.map((row) => JSON.stringify(row)).join(',\n')}\n]\n`,
);
const notice =
  'The tables objects.json, stars.bin and star-names.json are made from the data of the package d3-celestial (npm run catalogue). Its licence:\n\n';
writeFileSync(join(root, 'packages/server/catalogue/NOTICE'), notice + readFileSync(join(source, 'LICENSE'), 'utf8'));
console.log(`${rows.length} objects written`);

/** Stars for drawing, south to north: right ascension and declination as 32-bit floats, then tenths of magnitudes above −2 as bytes. */
const stars = (
  JSON.parse(readFileSync(join(source, 'data/stars.14.json'), 'utf8')) as {
    features: { properties: { mag: number }; geometry: { coordinates: [number, number] } }[];
  }
).features
  .map(({ properties: { mag }, geometry: { coordinates } }) => ({
    raDeg: (coordinates[0] + 360) % 360,
    decDeg: coordinates[1],
    mag,
  }))
  .filter(({ mag }) => mag > -2 && mag < 20)
  .sort((a, b) => a.decDeg - b.decDeg || a.raDeg - b.raDeg);
const bytes = Buffer.concat([
  Buffer.from(Float32Array.from(stars, ({ raDeg }) => raDeg).buffer),
  Buffer.from(Float32Array.from(stars, ({ decDeg }) => decDeg).buffer),
  Buffer.from(Uint8Array.from(stars, ({ mag }) => Math.round(10 * (mag + 2)))),
]);
writeFileSync(join(root, 'packages/server/catalogue/stars.bin'), bytes);
console.log(`${stars.length} stars, ${bytes.length} bytes`);

interface StarName {
  readonly name: string;
  readonly bayer: string;
  readonly flam: string;
  readonly c: string;
  readonly hip: string;
}
/** Fainter stars are not named anywhere. */
const NAMED_MAG = 6.5;
const starNames = JSON.parse(readFileSync(join(source, 'data/starnames.json'), 'utf8')) as Record<string, StarName>;
const called = ({ name, bayer, flam, c, hip }: StarName): string =>
  name || (bayer || flam ? `${bayer || flam} ${c}` : hip.replace(/[^\dA-Z]+/, ' '));
const named = (
  JSON.parse(readFileSync(join(source, 'data/stars.8.json'), 'utf8')) as {
    features: { id: number; properties: { mag: number }; geometry: { coordinates: [number, number] } }[];
  }
).features
  .filter(({ id, properties: { mag } }) => mag <= NAMED_MAG && starNames[id])
  .map(({ id, geometry: { coordinates } }) => [
    Number(((coordinates[0] + 360) % 360).toFixed(4)),
    Number(coordinates[1].toFixed(4)),
    called(starNames[id]),
  ])
  .filter(([, , name]) => name !== '');
writeFileSync(
  join(root, 'packages/server/catalogue/star-names.json'),
  `[\n${named.map((row) => JSON.stringify(row)).join(',\n')}\n]\n`,
);
console.log(`${named.length} stars named`);
