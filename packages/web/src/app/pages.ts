/** The pages in the line under the strip, with the keys that go there. */
export const PAGES = [
  { words: 'Tonight', to: '/tonight', keys: 'gt' },
  { words: 'Season', to: '/season', keys: 'gs' },
  { words: 'Projects', to: '/projects', keys: 'gp' },
  { words: 'Finder', to: '/finder', keys: 'gf' },
  { words: 'Ledger', to: '/ledger', keys: 'gl' },
  { words: 'Standing', to: '/standing', keys: 'gd' },
  { words: 'Visits', to: '/visits', keys: 'gv' },
  { words: 'Members', to: '/members', keys: 'gm' },
  { words: 'Observatory', to: '/observatory', keys: 'go' },
] as const;

/** The guides under Help. */
export const HELP_PAGES = [
  { words: 'The coordinator’s guide', to: '/help/coordinator' },
  { words: 'The member’s guide', to: '/help/member' },
  { words: 'The helper’s guide', to: '/help/helper' },
] as const;
