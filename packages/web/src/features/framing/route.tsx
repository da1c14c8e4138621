import { addProject, catalogueAround, readObservatory } from '@meridiem/contract';
import { formatDeclination, formatRightAscension } from '@meridiem/core';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { useAddress } from '../../app/address.ts';
import { call, wordsOf } from '../../app/api.ts';
import { useAccount } from '../../app/session.ts';
import { Empty, Failure, Loading } from '../../ui/states.tsx';
import { FoundTargets } from '../../targets/FoundTargets.tsx';
import type { SkyView } from '../../sky-field/projection.ts';
import { SurveyLayer } from '../../sky-field/SurveyLayer.tsx';
import { FieldStars } from './components/FieldStars.tsx';
import { FitForMe } from './components/FitForMe.tsx';
import { FrameAnew } from './components/FrameAnew.tsx';
import { FrameSky } from './components/FrameSky.tsx';
import { SkyPictures } from './components/SkyPictures.tsx';
import type { Composition } from './view-model.ts';
import { addressOf, compositionFrom, framed, MOST_SIDE } from './view-model.ts';

const [WIDTH_PX, HEIGHT_PX] = [860, 600];
/** Sky around the composition, as a multiple of its reach. */
const MARGIN = 3.4;

/** Panels on the sky before they are anybody's project. The whole composition is in the address. */
export default function FramingPage() {
  const [search, change] = useAddress({ replace: true });
  const { role } = useAccount();
  const composition = compositionFrom(search);
  const { data: observatory, error } = useQuery({
    queryKey: ['observatory'],
    queryFn: ({ signal }) => call(readObservatory, { signal }),
  });
  const rig = observatory?.rigs.find(({ id }) => id === search.get('rig')) ?? observatory?.rigs[0];
  const frame = useMemo(() => (composition && rig ? framed(composition, rig) : null), [composition, rig]);
  // The drawing stands where the view was last centred, so that dragging moves the frame and not the sky.
  const [looked, setLooked] = useState<{ raDeg: number; decDeg: number } | null>(null);
  const pictured = search.get('pictures') !== '0';
  const brightness = Number(search.get('bright')) || 1;
  const contrast = Number(search.get('contrast')) || 1;
  const [pictures, setPictures] = useState({ wanted: 0, there: 0, failed: 0 });
  const centre = looked ?? composition?.centre;
  const widthDeg = Math.min(60, Math.max(0.2, (frame?.reachDeg ?? 1) * MARGIN));
  const view: SkyView | null = useMemo(
    () => (centre ? { centre, widthDeg, widthPx: WIDTH_PX, heightPx: HEIGHT_PX } : null),
    [centre?.raDeg, centre?.decDeg, widthDeg], // eslint-disable-line react-hooks/exhaustive-deps
  );
  const { data: around } = useQuery({
    queryKey: ['catalogue', 'around', centre, widthDeg],
    queryFn: ({ signal }) =>
      call(catalogueAround, { query: { ...centre!, radiusDeg: Math.min(40, widthDeg * 0.72) }, signal }),
    enabled: view !== null,
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  });
  if (error) return <Failure words={wordsOf(error)} />;
  if (!observatory) return <Loading what="the rigs" rows={4} />;
  if (!rig) return <Empty title="There is no rig to frame with yet.">Add the first one on the Observatory page.</Empty>;
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1 className="text-2xl">Framing</h1>
        <label>
          <span className="text-soft">rig</span>{' '}
          <select value={rig.id} onChange={(event) => change({ rig: event.target.value })}>
            {observatory.rigs.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <TargetSearch
          onChoose={(chosen) => {
            setLooked(null);
            change(chosen);
          }}
        />
      </div>
      {!composition || !frame || !view ? (
        <Empty title="Find a target to frame.">By designation, name, or coordinates like 05 38 42 −69 06 03.</Empty>
      ) : (
        <div className="mt-4 grid gap-8 lg:grid-cols-[minmax(0,1fr)_340px]">
          <div>
            <FrameSky
              view={view}
              around={around}
              composition={composition}
              framed={frame}
              onMove={(next) => {
                setLooked(view.centre);
                change({ ...subjectAddress(search, composition), ...addressOf({ centre: next }) });
              }}
              onTurn={(positionAngleDeg) => change(addressOf({ positionAngleDeg }))}
            >
              {pictured && (
                <SurveyLayer
                  key={`${view.centre.raDeg} ${view.centre.decDeg} ${view.widthDeg}`}
                  view={view}
                  brightness={brightness}
                  contrast={contrast}
                  onProgress={setPictures}
                />
              )}
            </FrameSky>
            <SkyPictures
              shown={pictured}
              brightness={brightness}
              contrast={contrast}
              progress={pictures}
              onChange={change}
            />
          </div>
          <aside>
            <h2 className="font-serif text-xl">{composition.targetName || 'A typed place'}</h2>
            <p className="text-soft">
              {formatRightAscension(composition.centre.raDeg)}, {formatDeclination(composition.centre.decDeg)} (J2000)
            </p>
            <Numbers composition={composition} onChange={(changes) => change(addressOf(changes))} />
            <p className="mt-2 flex gap-3">
              <button type="button" className="act" onClick={() => setLooked(null)}>
                Look at the frame’s centre
              </button>
              <button
                type="button"
                className="act"
                onClick={() => {
                  setLooked(null);
                  change(addressOf({ centre: composition.subject }));
                }}
              >
                Back onto the target
              </button>
            </p>
            <ul className="mt-4" aria-label="What it amounts to">
              {frame.facts.map((fact) => (
                <li key={fact} className="rule py-1">
                  {fact}
                </li>
              ))}
              {frame.remarks.map((remark) => (
                <li key={remark} className="rule py-1 text-signal">
                  {remark}
                </li>
              ))}
            </ul>
            {around && (
              <FieldStars
                composition={composition}
                framed={frame}
                rig={rig}
                stars={around.stars}
                onMove={(centre) => change(addressOf({ centre }))}
              />
            )}
            <FitForMe
              key={`${composition.subject.raDeg} ${composition.subject.decDeg} ${rig.id}`}
              composition={composition}
              rig={rig}
              onTake={(changes) => {
                setLooked(null);
                change(addressOf(changes));
              }}
            />
            {frame.problem && (
              <div role="alert" className="mt-3 border-l-2 border-signal py-1 pl-3">
                <p>{frame.problem}</p>
                {composition.layout === 'one_plane' && (
                  <button type="button" className="act mt-2" onClick={() => change({ layout: 'one_angle' })}>
                    Use one camera angle
                  </button>
                )}
              </div>
            )}
            {role !== 'guest' && !frame.problem && (
              <>
                <BeginProject composition={composition} rigId={rig.id} panels={frame.panels} />
                <FrameAnew
                  rigId={rig.id}
                  panels={frame.panels.map(({ centre, positionAngleDeg }) => ({
                    ...centre,
                    positionAngleDeg: positionAngleDeg % 360,
                  }))}
                />
              </>
            )}
          </aside>
        </div>
      )}
    </>
  );
}

/** A place that came without its subject: the subject stays there when the frame moves on. */
const subjectAddress = (search: URLSearchParams, { subject }: Composition): Record<string, string> =>
  search.has('sra') ? {} : { sra: String(subject.raDeg), sdec: String(subject.decDeg) };

function TargetSearch({ onChoose }: { onChoose: (address: Record<string, string>) => void }) {
  const [sought, setSought] = useState('');
  return (
    <div className="relative">
      <label>
        <span className="text-soft">target</span>{' '}
        <input
          className="w-72"
          value={sought}
          onChange={(event) => setSought(event.target.value)}
          placeholder="name, number, or coordinates"
        />
      </label>
      <FoundTargets
        sought={sought}
        className="absolute z-10 mt-1 max-h-72 w-[420px] overflow-auto border border-hairline bg-raised p-2 shadow-lg"
        onChoose={({ designation, raDeg, decDeg, sizeArcmin }) => {
          const [ra, dec] = [String(raDeg), String(decDeg)];
          setSought('');
          onChoose({ target: designation, ra, dec, sra: ra, sdec: dec, size: String(sizeArcmin ?? '') });
        }}
      />
    </div>
  );
}

function Numbers({
  composition,
  onChange,
}: {
  composition: Composition;
  onChange: (changes: Partial<Composition>) => void;
}) {
  const field = (
    label: string,
    unit: string,
    value: number,
    limits: { min: number; max: number; step: number },
    apply: (value: number) => Partial<Composition>,
  ) => (
    <label className="flex items-baseline justify-between gap-2">
      <span className="text-soft">{label}</span>
      <span>
        <input
          type="number"
          className="w-20 text-right"
          value={value}
          {...limits}
          onChange={(event) => {
            const typed = event.target.valueAsNumber;
            if (Number.isFinite(typed) && typed >= limits.min && typed <= limits.max) onChange(apply(typed));
          }}
        />
        <span className="unit inline-block w-4">{unit}</span>
      </span>
    </label>
  );
  return (
    <div className="mt-3 grid gap-1.5">
      {field(
        'Angle of the upward side',
        '°',
        composition.positionAngleDeg,
        { min: 0, max: 359.9, step: 0.1 },
        (value) => ({
          positionAngleDeg: value,
        }),
      )}
      {field('Rows', '', composition.rows, { min: 1, max: MOST_SIDE, step: 1 }, (value) => ({
        rows: Math.round(value),
      }))}
      {field('Columns', '', composition.cols, { min: 1, max: MOST_SIDE, step: 1 }, (value) => ({
        cols: Math.round(value),
      }))}
      {composition.rows * composition.cols > 1 && (
        <>
          {field('Overlap', '%', composition.overlapPercent, { min: 0, max: 60, step: 1 }, (value) => ({
            overlapPercent: value,
          }))}
          <label className="flex items-baseline justify-between gap-2">
            <span className="text-soft">Panels stand</span>
            <select
              value={composition.layout}
              onChange={(event) => onChange({ layout: event.target.value as Composition['layout'] })}
            >
              <option value="one_angle">under one camera angle</option>
              <option value="one_plane">on one plane, each at its angle</option>
            </select>
          </label>
        </>
      )}
    </div>
  );
}

interface BeginProjectProps {
  readonly composition: Composition;
  readonly rigId: string;
  readonly panels: readonly { centre: { raDeg: number; decDeg: number }; positionAngleDeg: number }[];
}

function BeginProject({ composition, rigId, panels }: BeginProjectProps) {
  const navigate = useNavigate();
  const [name, setName] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const begin = async (): Promise<void> => {
    const given = name.trim() || composition.targetName;
    if (given === '') return setProblem('Give the project a name');
    try {
      const { id } = await call(addProject, {
        body: {
          name: given,
          rigId,
          targetName: composition.targetName || given,
          raText: `${composition.subject.raDeg}°`,
          decText: String(composition.subject.decDeg),
          positionAngleDeg: composition.positionAngleDeg,
          panels: panels.map(({ centre, positionAngleDeg }) => ({
            ...centre,
            positionAngleDeg: positionAngleDeg % 360,
          })),
        },
      });
      void navigate(`/projects/${id}`);
    } catch (failure) {
      setProblem(wordsOf(failure));
    }
  };
  return (
    <form
      aria-label="Begin a project"
      className="mt-5"
      onSubmit={(event) => {
        event.preventDefault();
        void begin();
      }}
    >
      <label className="grid gap-0.5">
        Name of the project
        <input
          value={name}
          placeholder={composition.targetName}
          onChange={(event) => {
            setName(event.target.value);
            setProblem(null);
          }}
        />
      </label>
      {problem && (
        <p role="alert" className="text-sm text-signal">
          {problem}
        </p>
      )}
      <button type="submit" className="act act-strong mt-2">
        Begin a draft with {panels.length === 1 ? 'this panel' : `these ${panels.length} panels`}
      </button>
    </form>
  );
}
