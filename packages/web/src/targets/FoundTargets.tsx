import type { ResponseOf } from '@meridiem/contract';
import { searchCatalogue } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { call } from '../app/api.ts';
import { degrees } from '../words/format.ts';

export type FoundTarget = ResponseOf<typeof searchCatalogue>['objects'][number];

/** What a catalogue search answers, each a choice; nothing before two letters are typed. */
export function FoundTargets({
  sought,
  className,
  onChoose,
}: {
  sought: string;
  className: string;
  onChoose: (target: FoundTarget) => void;
}) {
  const { data } = useQuery({
    queryKey: ['catalogue', sought],
    queryFn: ({ signal }) => call(searchCatalogue, { query: { q: sought }, signal }),
    enabled: sought.trim().length > 1,
    staleTime: Infinity,
  });
  if (sought.trim().length < 2 || !data) return null;
  return (
    <ul aria-label="Found targets" className={className}>
      {data.objects.map((object) => (
        <li key={object.designation + object.raDeg} className="rule">
          <button
            type="button"
            className="w-full cursor-pointer py-1 text-left hover:text-brass"
            onClick={() => onChoose(object)}
          >
            <strong>{object.designation}</strong> {object.name}{' '}
            <span className="text-soft">
              {object.kind}
              {object.sizeArcmin ? `, ${object.sizeArcmin}′` : ''}; highest {degrees(object.highestDeg, 0)}
            </span>
            {object.highestDeg < 30 && <span className="text-signal"> never high enough from here</span>}
          </button>
        </li>
      ))}
      {data.objects.length === 0 && (
        <li className="text-soft">Nothing of that name. Try a catalogue number, or type the coordinates.</li>
      )}
    </ul>
  );
}
