// Groups of four stars as shapes that neither shifting, turning nor scaling changes: by them a picture's stars are found among a
// catalogue's. Source of the shape's numbers: Lang et al. 2010, AJ 139, 1782, section 2.1 (here with the pair at 0 and 1).

/** A place on a plane, in whichever unit the plane has. */
export interface Flat {
  readonly x: number;
  readonly y: number;
}

/** Where the two inner stars lie, in the frame whose origin and unit are the two that are furthest apart. */
export type QuadCode = readonly [cu: number, cv: number, du: number, dv: number];

export interface Quad {
  /** Places in the list of stars, in the order of the code: the outer two, then the inner two. */
  readonly stars: readonly [number, number, number, number];
  readonly code: QuadCode;
  /** Between the outer two, in the plane's unit. */
  readonly length: number;
}

/** Each star with three of so many nearest neighbours. */
const NEIGHBOURS = 6;

/** Neighbours of stars on a plane, by cells about as wide as stars lie apart. */
export function neighbourGrid(stars: readonly Flat[], cell: number) {
  const cells = new Map<number, number[]>();
  const keyOf = (i: number, j: number): number => i * 65_536 + j;
  const at = (value: number): number => Math.floor(value / cell);
  stars.forEach(({ x, y }, index) => {
    const key = keyOf(at(x), at(y));
    const list = cells.get(key);
    if (list) list.push(index);
    else cells.set(key, [index]);
  });
  return {
    /** Within a distance of a place. */
    within({ x, y }: Flat, radius: number): number[] {
      const found: number[] = [];
      for (let i = at(x - radius); i <= at(x + radius); i++)
        for (let j = at(y - radius); j <= at(y + radius); j++)
          for (const index of cells.get(keyOf(i, j)) ?? [])
            if ((stars[index].x - x) ** 2 + (stars[index].y - y) ** 2 <= radius * radius) found.push(index);
      return found;
    },
    /** The nearest others, as many as make quads. */
    nearest(index: number): number[] {
      const { x, y } = stars[index];
      for (let reach = 1; ; reach++) {
        const others = this.within(stars[index], reach * cell).filter((other) => other !== index);
        if (others.length < NEIGHBOURS && reach < MOST_REACH) continue;
        const apart = (of: number): number => (stars[of].x - x) ** 2 + (stars[of].y - y) ** 2;
        return others.sort((a, b) => apart(a) - apart(b)).slice(0, NEIGHBOURS);
      }
    },
  };
}
const MOST_REACH = 8;

export type NeighbourGrid = ReturnType<typeof neighbourGrid>;

/** The quads that a star makes with its nearest neighbours. */
export function quadsAt(stars: readonly Flat[], grid: NeighbourGrid, index: number): Quad[] {
  const near = grid.nearest(index);
  const quads: Quad[] = [];
  for (let i = 0; i < near.length; i++)
    for (let j = i + 1; j < near.length; j++)
      for (let k = j + 1; k < near.length; k++) quads.push(quadOf(stars, [index, near[i], near[j], near[k]]));
  return quads;
}

/** @param four places in the list of stars */
export function quadOf(stars: readonly Flat[], four: readonly [number, number, number, number]): Quad {
  let [a, b] = [0, 1];
  let most = -1;
  for (let i = 0; i < 4; i++)
    for (let j = i + 1; j < 4; j++) {
      const apart = squared(stars[four[i]], stars[four[j]]);
      if (apart > most) [a, b, most] = [i, j, apart];
    }
  const [c, d] = [0, 1, 2, 3].filter((one) => one !== a && one !== b);
  return orderedQuad(stars, [four[a], four[b], four[c], four[d]], Math.sqrt(most));
}

const squared = (p: Flat, q: Flat): number => (p.x - q.x) ** 2 + (p.y - q.y) ** 2;

/** The one order in which a shape has the same numbers wherever it is met. */
function orderedQuad(
  stars: readonly Flat[],
  [a, b, c, d]: readonly [number, number, number, number],
  length: number,
): Quad {
  let [cu, cv] = inFrame(stars[a], stars[b], stars[c]);
  let [du, dv] = inFrame(stars[a], stars[b], stars[d]);
  let [first, second] = [a, b];
  if (cu + du > 1) {
    [cu, cv, du, dv] = [1 - cu, -cv, 1 - du, -dv];
    [first, second] = [b, a];
  }
  const isInOrder = cu <= du;
  return {
    stars: isInOrder ? [first, second, c, d] : [first, second, d, c],
    code: isInOrder ? [cu, cv, du, dv] : [du, dv, cu, cv],
    length,
  };
}

function inFrame(a: Flat, b: Flat, p: Flat): [number, number] {
  const [dx, dy, px, py] = [b.x - a.x, b.y - a.y, p.x - a.x, p.y - a.y];
  const by = dx * dx + dy * dy;
  return [(px * dx + py * dy) / by, (py * dx - px * dy) / by];
}

/** Quads found by their shape. */
export interface QuadIndex {
  /** @returns places in the list that the index was made of, each at most `within` away in every number of its code */
  like(code: QuadCode): readonly number[];
}

/** @param within the tolerance of each number of a code */
export function quadIndex(codes: readonly QuadCode[], within: number): QuadIndex {
  const cells = new Map<number, number[]>();
  const side = 2 * within;
  const keyOf = (i: number, j: number): number => (i + 4096) * 8192 + (j + 4096);
  const cell = (value: number): number => Math.floor(value / side);
  codes.forEach(([cu, cv], place) => {
    // In every cell that its tolerance touches, so that one look suffices.
    for (let i = cell(cu - within); i <= cell(cu + within); i++)
      for (let j = cell(cv - within); j <= cell(cv + within); j++) {
        const list = cells.get(keyOf(i, j));
        if (list) list.push(place);
        else cells.set(keyOf(i, j), [place]);
      }
  });
  return {
    like: (code) =>
      (cells.get(keyOf(cell(code[0]), cell(code[1]))) ?? []).filter((place) =>
        codes[place].every((value, n) => Math.abs(value - code[n]) <= within),
      ),
  };
}
