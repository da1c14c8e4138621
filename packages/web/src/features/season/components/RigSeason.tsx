import type { SeasonNight } from '@meridiem/contract';
import type { KeyboardEvent, ReactNode } from 'react';
import { Link } from 'react-router';
import { filterColour, filterTexture } from '../../../filters/filter-look.ts';
import { finishWords } from '../../../words/finish.ts';
import { dayOf } from '../../../words/format.ts';
import type { CellPlace, SeasonRig, SeasonRow } from '../view-model.ts';
import { cellWords, dateMarks, lastNightOf, mainFilter, nightIndex } from '../view-model.ts';

export interface Chosen {
  readonly projectId: string | null;
  readonly nightDate: string | null;
}

interface RigSeasonProps {
  readonly rig: SeasonRig;
  readonly name: string;
  readonly chosen: Chosen;
  readonly onChoose: (projectId: string, nightDate: string) => void;
}

const COLUMNS = 'grid grid-cols-1 gap-x-3 sm:grid-cols-[250px_1fr_215px]';

/** One rig's nights as one axis, a row a project: night strips seen from very far. */
export function RigSeason({ rig, name, chosen, onChoose }: RigSeasonProps) {
  const { nights, rows, reserved } = rig;
  return (
    <section aria-label={`Season of ${name}`} className="mt-6">
      <h2 className="text-xl">{name}</h2>
      <div className={`${COLUMNS} mt-1`}>
        <p className="hidden self-end text-xs text-soft sm:block">dark hours, with the moon down filled</p>
        <NightAxis nights={nights} />
        <p className="hidden self-end text-xs text-soft sm:block">ends</p>
      </div>
      {rows.map((row) => (
        <ProjectRow key={row.project.projectId} row={row} nights={nights} chosen={chosen} onChoose={onChoose} />
      ))}
      {reserved.length > 0 && (
        <div className={`rule ${COLUMNS} min-h-7 items-center`}>
          <p className="text-soft">reserved</p>
          <Track nights={nights}>
            {reserved.map(({ from, length }, i) => (
              <Bar key={i} from={from} length={length} of={nights.length} className="bg-hairline" />
            ))}
          </Track>
        </div>
      )}
    </section>
  );
}

/** Each night's dark hours as a bar, those without the moon filled; months and weeks beneath. */
function NightAxis({ nights }: { nights: readonly SeasonNight[] }) {
  const longest = Math.max(1, ...nights.map(({ darkHours }) => darkHours));
  return (
    <div>
      <Track nights={nights} height={36}>
        {nights.map(({ nightDate, darkHours, moonlessHours }, n) => (
          <span
            key={nightDate}
            title={`${dayOf(nightDate)}: ${darkHours.toFixed(1)} h dark, ${moonlessHours.toFixed(1)} h of them without the moon`}
          >
            <Bar
              from={n + 0.1}
              length={0.8}
              of={nights.length}
              className="border border-b-0 border-hairline"
              top={1 - darkHours / longest}
            />
            <Bar from={n + 0.1} length={0.8} of={nights.length} className="bg-soft" top={1 - moonlessHours / longest} />
          </span>
        ))}
      </Track>
      <div className="relative h-4 text-xs text-soft">
        {dateMarks(nights).map(({ night, words }) => (
          <span
            key={night}
            className="absolute whitespace-nowrap"
            style={{ left: `${(100 * night) / nights.length}%` }}
          >
            {words}
          </span>
        ))}
      </div>
    </div>
  );
}

interface ProjectRowProps extends Omit<RigSeasonProps, 'rig' | 'name'> {
  readonly row: SeasonRow;
  readonly nights: readonly SeasonNight[];
}

function ProjectRow({ row: { project, places }, nights, chosen, onChoose }: ProjectRowProps) {
  const { projectId, name, ownerName, early, middle, late, deadline, hangsOnVisit } = project;
  const at = (nightDate: string | null): number => (nightDate ? nightIndex(nights, nightDate) : -1);
  const isChosen = chosen.projectId === projectId;
  const [from, to] = [at(early), late ? at(late) : nights.length - 1];
  return (
    <div className={`rule ${COLUMNS} items-center py-1 sm:min-h-7 sm:py-0`}>
      <p className="py-1 leading-tight">
        <Link className="hover:text-brass" to={`/projects/${projectId}`}>
          {name}
        </Link>
        <span className="block text-sm text-soft">
          {ownerName}
          {hangsOnVisit && (
            <Link className="ml-2 text-brass" to="/visits">
              waits for a visit
            </Link>
          )}
        </span>
      </p>
      <Track nights={nights} label={`Nights of ${name}`} onPick={(nightDate) => onChoose(projectId, nightDate)}>
        {places.map((place, i) => (
          <NightCell
            key={place.nightDate}
            place={place}
            of={nights.length}
            isFirst={i === 0}
            isChosen={isChosen && chosen.nightDate === place.nightDate}
            words={`${dayOf(place.nightDate)}: ${cellWords(place.cell, nights[at(place.nightDate)].odds)}`}
            onChoose={() => onChoose(projectId, place.nightDate)}
          />
        ))}
        {isChosen && !places.some(({ nightDate }) => nightDate === chosen.nightDate) && at(chosen.nightDate) >= 0 && (
          <span
            className="absolute bottom-1 top-1 outline outline-2 outline-brass"
            style={{ left: `${(100 * at(chosen.nightDate)) / nights.length}%`, width: `${100 / nights.length}%` }}
          />
        )}
        {from >= 0 && (
          <span
            className="absolute bottom-0 h-0.5 bg-brass"
            style={{ left: `${(100 * from) / nights.length}%`, width: `${(100 * (to + 1 - from)) / nights.length}%` }}
          />
        )}
        {middle && (
          <span
            className="absolute bottom-0 h-2 w-0.5 bg-brass"
            style={{ left: `${(100 * (at(middle) + 0.5)) / nights.length}%` }}
          />
        )}
        {hangsOnVisit && at(hangsOnVisit) >= 0 && (
          <span
            className="absolute bottom-0 top-0 w-0 border-l-2 border-dotted border-brass"
            title={`Some of it waits for the visit before the night of ${dayOf(hangsOnVisit)}, which is not confirmed`}
            style={{ left: `${(100 * at(hangsOnVisit)) / nights.length}%` }}
          />
        )}
        {deadline && at(deadline) >= 0 && (
          <span
            className="absolute bottom-0 top-0 w-px bg-signal"
            title={`Deadline: ${dayOf(deadline)}`}
            style={{ left: `${(100 * (at(deadline) + 1)) / nights.length}%` }}
          />
        )}
      </Track>
      <p className="text-sm">{finishWords(project, lastNightOf(nights))}</p>
    </div>
  );
}

interface NightCellProps {
  readonly place: CellPlace;
  readonly of: number;
  readonly isFirst: boolean;
  readonly isChosen: boolean;
  readonly words: string;
  readonly onChoose: () => void;
}

/** What a night does for a project; arrows go from night to night. */
function NightCell({ place: { from, length, cell }, of, isFirst, isChosen, words, onChoose }: NightCellProps) {
  const filter = mainFilter(cell);
  const onKey = ({ key, currentTarget }: KeyboardEvent<HTMLButtonElement>): void => {
    const next = key === 'ArrowRight' ? currentTarget.nextElementSibling : key === 'ArrowLeft' ? currentTarget.previousElementSibling : null; // prettier-ignore
    if (next instanceof HTMLButtonElement) next.focus();
  };
  return (
    <button
      type="button"
      tabIndex={isFirst ? 0 : -1}
      aria-label={words}
      aria-pressed={isChosen}
      title={words}
      onClick={onChoose}
      onKeyDown={onKey}
      className={`absolute bottom-1 top-1 min-w-0 p-0 ${filter ? filterTexture(filter.filterClass) : ''} ${isChosen ? 'outline outline-2 outline-brass' : ''}`}
      style={{
        left: `${(100 * from) / of}%`,
        width: `max(2px, ${(100 * length) / of}%)`,
        backgroundColor: filter ? filterColour(filter.letter) : 'var(--hairline)',
      }}
    />
  );
}

/** A row's nights, closed ones crossed out. */
const Track = ({
  nights,
  height = 24,
  label,
  onPick,
  children,
}: {
  nights: readonly SeasonNight[];
  height?: number;
  label?: string;
  /** A place without work is clicked; by keyboard any night is chosen in the section below the rows. */
  onPick?: (nightDate: string) => void;
  children: ReactNode;
}) => (
  <div
    className="relative"
    style={{ height }}
    {...(label ? { role: 'group', 'aria-label': label } : {})}
    onClick={({ target, currentTarget, clientX }) => {
      if (!onPick || target instanceof HTMLButtonElement) return;
      const { left, width } = currentTarget.getBoundingClientRect();
      const night = nights[Math.floor(((clientX - left) / width) * nights.length)];
      if (night) onPick(night.nightDate);
    }}
  >
    {nights.map(({ nightDate, odds }, n) =>
      odds > 0 ? null : (
        <span
          key={nightDate}
          title={`${dayOf(nightDate)}: closed`}
          className="hatched absolute bottom-0 top-0 bg-hairline opacity-50"
          style={{ left: `${(100 * n) / nights.length}%`, width: `${100 / nights.length}%` }}
        />
      ),
    )}
    {nights.map(({ nightDate }, n) =>
      n > 0 && nightDate.endsWith('-01') ? (
        <span
          key={nightDate}
          className="absolute bottom-0 top-0 w-px bg-hairline"
          style={{ left: `${(100 * n) / nights.length}%` }}
        />
      ) : null,
    )}
    {children}
  </div>
);

const Bar = ({
  from,
  length,
  of,
  className,
  top = 0,
}: {
  from: number;
  length: number;
  of: number;
  className: string;
  top?: number;
}) => (
  <span
    className={`absolute bottom-0 ${className}`}
    style={{ left: `${(100 * from) / of}%`, width: `${(100 * length) / of}%`, top: `${100 * top}%` }}
  />
);
