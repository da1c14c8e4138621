// The guides of docs/guide, one for each kind of person; read inside the application and found by its search.
import coordinator from '../../../../../docs/guide/coordinator.md?raw';
import helper from '../../../../../docs/guide/helper.md?raw';
import member from '../../../../../docs/guide/member.md?raw';

export const GUIDES: Readonly<Record<string, string>> = { coordinator, member, helper };

const PICTURES = import.meta.glob<string>(
  '../../../../../docs/screenshots/{observatory,tonight,framing,project,visits}.png',
  {
    eager: true,
    query: '?url',
    import: 'default',
  },
);

/** Where a guide's picture lies in the built application.
 * @param source as the guide names it, "../screenshots/tonight.png" */
export const pictureOf = (source: string): string | undefined =>
  Object.entries(PICTURES).find(([path]) => path.endsWith(source.replace('..', '')))?.[1];
