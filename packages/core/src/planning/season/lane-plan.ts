// One lane of a season while it is searched: blocks in their order, and where decoding puts them.

/** Blocks a lane can hold. */
export const MOST_BLOCKS = 400;

/** What is asked of a lane: exposures of one goal each, not before a moment; they follow one another. */
export class BlockList {
  length = 0;
  readonly goal = new Int32Array(MOST_BLOCKS);
  readonly count = new Float64Array(MOST_BLOCKS);
  readonly notBeforeSec = new Float64Array(MOST_BLOCKS);

  clear(): void {
    this.length = 0;
  }

  push(goal: number, count: number, notBeforeSec = 0): void {
    if (this.length >= MOST_BLOCKS || count <= 0) return;
    const last = this.length - 1;
    if (last >= 0 && this.goal[last] === goal && notBeforeSec <= 0) {
      this.count[last] += count;
      return;
    }
    this.goal[this.length] = goal;
    this.count[this.length] = count;
    this.notBeforeSec[this.length] = notBeforeSec;
    this.length += 1;
  }

  /** The blocks of another list from one to before another. */
  append(other: BlockList, from: number, to: number): void {
    for (let b = from; b < to; b++) this.push(other.goal[b], other.count[b], other.notBeforeSec[b]);
  }
}

/** A decoded lane: `count` is what fits, and blocks of which nothing fits are gone. */
export class LanePlan extends BlockList {
  readonly startSec = new Float64Array(MOST_BLOCKS);
  readonly endSec = new Float64Array(MOST_BLOCKS);
  readonly light = new Float64Array(MOST_BLOCKS);
}
