// Objects by designation in any spelling, by name, or by typed coordinates.
import { readFileSync } from 'node:fs';
import type { ResponseOf, catalogueAround, searchCatalogue } from '@meridiem/contract';
import { CoreError, designationKey, parsePosition } from '@meridiem/core';
import type { StarTable } from './around.ts';
import { loadStars, objectsAround, starsAround } from './around.ts';
import type { Database } from '../../database/connection.ts';

type Row = readonly [
  designation: string,
  alias: string | null,
  name: string | null,
  kind: string,
  mag: number | null,
  sizeArcmin: number | null,
  raDeg: number,
  decDeg: number,
];

export interface CatalogueObject {
  readonly designation: string;
  readonly name: string | null;
  readonly kind: string;
  readonly mag: number | null;
  readonly sizeArcmin: number | null;
  readonly raDeg: number;
  readonly decDeg: number;
}

interface Catalogue {
  readonly byKey: ReadonlyMap<string, CatalogueObject>;
  readonly named: readonly { readonly words: string; readonly object: CatalogueObject }[];
}

const MOST = 12;

/** Reads the shipped table. */
export function loadCatalogue(): Catalogue {
  const rows = JSON.parse(readFileSync(new URL('../../../catalogue/objects.json', import.meta.url), 'utf8')) as Row[];
  const byKey = new Map<string, CatalogueObject>();
  const named: { words: string; object: CatalogueObject }[] = [];
  for (const [designation, alias, name, kind, mag, sizeArcmin, raDeg, decDeg] of rows) {
    const object = { designation, name, kind, mag, sizeArcmin, raDeg, decDeg };
    byKey.set(designationKey(designation), object);
    if (alias) byKey.set(designationKey(alias), object);
    if (name) named.push({ words: name.toLowerCase(), object });
  }
  return { byKey, named };
}

export type CatalogueService = ReturnType<typeof createCatalogueService>;

export function createCatalogueService({ database }: { database: Database }) {
  let catalogue: Catalogue | null = null;
  let stars: StarTable | null = null;

  return {
    async search(text: string, observatoryId: string): Promise<ResponseOf<typeof searchCatalogue>> {
      catalogue ??= loadCatalogue();
      const site = await database.one<{ latitudeDeg: number }>(
        'SELECT latitude_deg AS "latitudeDeg" FROM observatories WHERE id = $1',
        [observatoryId],
      );
      const highestDeg = (decDeg: number): number => 90 - Math.abs((site?.latitudeDeg ?? 0) - decDeg);
      const found = typedPosition(text) ?? matches(catalogue, text);
      return { objects: found.map((object) => ({ ...object, highestDeg: highestDeg(object.decDeg) })) };
    },

    around(centre: { raDeg: number; decDeg: number }, radiusDeg: number): ResponseOf<typeof catalogueAround> {
      catalogue ??= loadCatalogue();
      stars ??= loadStars();
      return {
        stars: starsAround(stars, centre, radiusDeg),
        objects: objectsAround(new Set(catalogue.byKey.values()), centre, radiusDeg),
      };
    },
  };
}

function matches({ byKey, named }: Catalogue, text: string): CatalogueObject[] {
  const key = designationKey(text);
  if (key === '') return [];
  const exact = byKey.get(key);
  const words = text.trim().toLowerCase();
  const byName = named.filter((entry) => entry.words.includes(words)).map((entry) => entry.object);
  const startingSo = /\d/.test(key)
    ? [...byKey]
        .filter(([other]) => other.startsWith(key) && other !== key)
        .sort(([a], [b]) => a.length - b.length)
        .map(([, object]) => object)
    : [];
  return [...new Set([...(exact ? [exact] : []), ...byName, ...startingSo])].slice(0, MOST);
}

/** "05 34 32, −05 23 28" or "83.6 -5.4": two coordinates in one line. */
function typedPosition(text: string): CatalogueObject[] | null {
  const plain = text.replaceAll('−', '-').trim();
  const parts = /^(.*?\d[^,]*?)\s*(?:,\s*|\s+(?=[+-]))([+-]?.+)$/.exec(plain);
  if (!parts || !/^[\d\s.:hms°d]+$/i.test(parts[1])) return null;
  try {
    const position = parsePosition(parts[1], parts[2]);
    if (!position) return null;
    return [{ designation: 'Typed place', name: null, kind: 'place', mag: null, sizeArcmin: null, ...position }];
  } catch (error) {
    if (error instanceof CoreError) return null;
    throw error;
  }
}
