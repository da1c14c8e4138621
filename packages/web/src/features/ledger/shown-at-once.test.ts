import { describe, expect, it } from '@jest/globals';
import type { BodyOf, judgeExposures, LedgerRow } from '@meridiem/contract';
import { withVerdict } from './shown-at-once.ts';

const row = (id: string, more: Partial<LedgerRow> = {}): LedgerRow =>
  ({
    id,
    verdict: 'undecided',
    verdictReason: null,
    verdictBy: null,
    verdictOrigin: null,
    mayJudge: true,
    ...more,
  }) as LedgerRow;
const given: BodyOf<typeof judgeExposures> = { exposureIds: ['a', 'b'], verdict: 'rejected', reason: 'cloud' };
const member = { name: 'Ilse', role: 'member' };
const shown = (rows: LedgerRow[], by = member) => withVerdict(rows, given, by).map(({ verdict }) => verdict);

describe('a verdict on its way', () => {
  it('is shown with its reason and author on the rows that it is given to, and on no other', () => {
    const [a, , c] = withVerdict([row('a'), row('b'), row('c')], given, member);
    expect(a).toMatchObject({ verdict: 'rejected', verdictReason: 'cloud', verdictBy: 'Ilse', verdictOrigin: 'hand' });
    expect(c.verdict).toBe('undecided');
  });

  it('leaves rows that it does not touch the same, so that they are not drawn again', () => {
    const other = row('c');
    expect(withVerdict([other], given, member)[0]).toBe(other);
  });

  it('goes before a rule, and before one’s own of earlier', () => {
    expect(shown([row('a', { verdictOrigin: 'rule' }), row('b', { verdictOrigin: 'hand', verdictBy: 'Ilse' })])).toEqual(['rejected', 'rejected']); // prettier-ignore
  });

  it('waits for the server where another person has judged, or where it is not one’s own to judge', () => {
    const rows = [row('a', { verdictOrigin: 'hand', verdictBy: 'Piet' }), row('b', { mayJudge: false })];
    expect(shown(rows)).toEqual(['undecided', 'undecided']);
    expect(shown(rows, { name: 'Mara', role: 'coordinator' })).toEqual(['rejected', 'undecided']);
  });
});
