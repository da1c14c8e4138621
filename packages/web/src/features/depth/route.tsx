import type { FilterDepth, ProjectDepth } from '@meridiem/contract';
import { readDepth } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { useAddress } from '../../app/address.ts';
import { ApiError, call, wordsOf } from '../../app/api.ts';
import { Choice } from '../../ui/Choice.tsx';
import { Empty, Failure, Loading } from '../../ui/states.tsx';
import { count, percent } from '../../words/format.ts';
import { DepthPicture, inkOf } from './components/DepthPicture.tsx';
import { NextHours } from './components/NextHours.tsx';
import type { WantDepthProps } from './components/WantDepth.tsx';
import { WantDepth } from './components/WantDepth.tsx';
import type { Band, Grid } from './view-model.ts';
import { bandsOf, ofWords, wantedWords } from './view-model.ts';

/** How faint a glow a project shows, place by place, filter by filter. */
export default function DepthPage() {
  const { id = '' } = useParams();
  const [search, change] = useAddress({ replace: true });
  const of = search.get('of') === 'archive' ? 'archive' : 'project';
  const { data, error, isPending, refetch } = useQuery({
    queryKey: ['ledger', 'depth', id, of],
    queryFn: ({ signal }) => call(readDepth, { params: { id }, query: { of }, signal }),
  });
  if (isPending) return <Loading what="the depth" rows={8} />;
  if (error instanceof ApiError && error.code === 'NOT_FOUND') return <Empty title="There is no such project." />;
  if (error) return <Failure words={wordsOf(error)} onRetry={() => void refetch()} />;
  const { projectName, grid, filters, sources } = data;
  const withDepth = filters.filter(({ measured }) => measured > 0);
  const shown = withDepth.find(({ letter }) => letter === search.get('filter')) ?? withDepth.at(0);
  return (
    <>
      <p>
        <Link className="word-link" to={`/projects/${id}`}>
          {projectName}
        </Link>
      </p>
      <h1 className="text-2xl">Depth on the sky</h1>
      <p className="mt-1 max-w-[720px] text-soft">
        The faintest glow that is three times brighter than the noise of a square of 10″, from the background noise,
        zero point and place of each file that is not rejected. Where panels overlap both count.
      </p>
      <p className="mt-3">
        <Choice
          label="Counting"
          value={of}
          options={COUNTED}
          onChoose={(chosen) => change({ of: chosen === 'archive' ? chosen : null })}
        />
      </p>
      {!grid || !shown ? (
        <Nothing of={of} hasField={grid !== null} />
      ) : (
        <>
          <p className="mt-3">
            <Choice
              label="Filter"
              value={shown.letter}
              options={withDepth.map(({ letter }) => ({ value: letter, words: letter }))}
              onChoose={(letter) => change({ filter: letter })}
            />
          </p>
          <FilterMap
            key={shown.filterId}
            grid={grid}
            filter={shown}
            projectId={id}
            mayEdit={data.mayEdit && of === 'project'}
          />
        </>
      )}
      {of === 'project' && <NextHours filters={filters} mayEdit={data.mayEdit} projectId={id} />}
      {sources.length > 0 && <Sources sources={sources} />}
      {withDepth.length < filters.length && shown && (
        <p className="mt-3 text-soft">
          No file to tell by yet:{' '}
          {filters
            .filter(({ measured }) => measured === 0)
            .map(
              ({ letter, exposures, wanted }) => `${letter} (${exposures}${wanted ? `; ${wantedWords(wanted)}` : ''})`,
            )
            .join(', ')}
          .
        </p>
      )}
    </>
  );
}

const COUNTED = [
  { value: 'project', words: 'this project’s exposures' },
  { value: 'archive', words: 'all exposures over its field' },
] as const;

function Nothing({ of, hasField }: { readonly of: 'project' | 'archive'; readonly hasField: boolean }) {
  if (of === 'project')
    return (
      <Empty title="No file tells yet how deep it is.">
        It needs a file on this server whose stars say where it points and how much light arrived.
      </Empty>
    );
  return hasField ? (
    <Empty title="The archive holds nothing over this field.">
      Only files on this server count, whose stars say where they point and how much light arrived. Private work of
      others is left out.
    </Empty>
  ) : (
    <Empty title="No field to look under.">The project has no panel with a place on the sky.</Empty>
  );
}

/** Whose the exposures are: what is there already may be asked for, or joined. */
const Sources = ({ sources }: { readonly sources: ProjectDepth['sources'] }) => (
  <section aria-label="Whose exposures" className="mt-4">
    <h2 className="text-xl">Whose exposures</h2>
    <ul className="mt-1">
      {sources.map(({ projectId, projectName, ownerName, exposures }) => (
        <li key={projectId}>
          <Link className="word-link" to={`/projects/${projectId}`}>
            {projectName}
          </Link>
          <span className="text-soft">
            , {ownerName}: {exposures === 1 ? '1 exposure' : `${count(exposures)} exposures`}
          </span>
        </li>
      ))}
    </ul>
    <p className="mt-1 text-soft">Private work of others is left out.</p>
  </section>
);

interface FilterMapProps extends Omit<WantDepthProps, 'filter'> {
  readonly grid: Grid;
  readonly filter: FilterDepth;
}

function FilterMap({ grid, filter, ...project }: FilterMapProps) {
  const { letter, cells, summary, measured, exposures } = filter;
  if (!summary) return null;
  const bands = bandsOf(cells);
  return (
    <>
      <dl className="mt-3 flex flex-wrap gap-x-8 gap-y-1">
        <Depth name="Half of it reaches" mag={summary.medianMag} />
        <Depth name="Nine tenths reach" mag={summary.shallowTenthMag} />
        <Depth name="Deepest" mag={summary.deepestMag} />
        <div>
          <dt className="text-soft">From</dt>
          <dd>{ofWords({ measured, exposures })}</dd>
        </div>
      </dl>
      <div className="mt-4 flex flex-wrap items-start gap-x-10 gap-y-4">
        <DepthPicture
          {...{ grid, cells, bands }}
          words={`Depth in ${letter}: half of the field is as deep as ${summary.medianMag.toFixed(2)} magnitudes per square arcsecond`}
        />
        <BandTable bands={bands} />
      </div>
      <WantDepth filter={filter} {...project} />
    </>
  );
}

const Depth = ({ name, mag }: { readonly name: string; readonly mag: number }) => (
  <div>
    <dt className="text-soft">{name}</dt>
    <dd className="text-lg">
      {mag.toFixed(2)}
      <span className="unit">mag/″²</span>
    </dd>
  </div>
);

const BandTable = ({ bands }: { readonly bands: readonly Band[] }) => (
  <table>
    <thead>
      <tr className="rule">
        <th scope="col" className="pr-6 text-left">
          at least
        </th>
        <th scope="col" className="text-right">
          of the field
        </th>
      </tr>
    </thead>
    <tbody>
      {bands
        .map(({ fromMag, share }, band) => (
          <tr key={fromMag} className="rule">
            <td className="pr-6">
              <span
                aria-hidden
                className="mr-2 inline-block h-3 w-5 align-baseline"
                style={{ backgroundColor: 'var(--brass)', opacity: inkOf(band, bands.length) }}
              />
              {fromMag.toFixed(2)}
              <span className="unit">mag/″²</span>
            </td>
            <td className="text-right">{percent(share)}</td>
          </tr>
        ))
        .toReversed()}
    </tbody>
  </table>
);
