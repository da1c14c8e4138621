import type { Rig } from '@meridiem/contract';
import { readObservatory } from '@meridiem/contract';
import type { SkyPosition } from '@meridiem/core';
import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { useDeferredValue, useMemo, useState } from 'react';
import { useAddress } from '../../app/address.ts';
import { call, wordsOf } from '../../app/api.ts';
import { useAccount } from '../../app/session.ts';
import { SkyMap } from '../../sky-field/SkyMap.tsx';
import type { PictureProgress } from '../../sky-field/SurveyLayer.tsx';
import { SurveyLayer } from '../../sky-field/SurveyLayer.tsx';
import type { FoundTarget } from '../../targets/FoundTargets.tsx';
import { Empty, Failure, Loading } from '../../ui/states.tsx';
import { useWidth } from '../../ui/use-width.ts';
import { BeginProject } from './components/BeginProject.tsx';
import { CameraAngle } from './components/CameraAngle.tsx';
import { FieldStars, troublesIn } from './components/FieldStars.tsx';
import { FitForMe } from './components/FitForMe.tsx';
import { FrameAnew } from './components/FrameAnew.tsx';
import { FrameSky } from './components/FrameSky.tsx';
import { FramingFiles } from './components/FramingFiles.tsx';
import { KeepComposition } from './components/KeepComposition.tsx';
import { Marks } from './components/Marks.tsx';
import { Numbers } from './components/Numbers.tsx';
import { KeepWhat, RigChoice } from './components/RigChoice.tsx';
import { SkyPictures, skyWishFrom } from './components/SkyPictures.tsx';
import { Subjects } from './components/Subjects.tsx';
import { TargetSearch } from './components/TargetSearch.tsx';
import { TestShot } from './components/TestShot.tsx';
import type { Framing } from './use-framing.ts';
import { clampedWidthDeg, useFraming } from './use-framing.ts';
import type { Composition, FramedSubject } from './view-model.ts';
import { addressOf, amountsOf, compositionText, framed, sentPanels, subjectAddress } from './view-model.ts';

const USUAL_WIDTH_PX = 860;

/** Panels on the sky before they are anybody's project. The whole composition is in the address. */
export default function FramingPage() {
  const { data: observatory, error } = useQuery({
    queryKey: ['observatory'],
    queryFn: ({ signal }) => call(readObservatory, { signal }),
  });
  const [skyRef, widthPx] = useWidth(USUAL_WIDTH_PX);
  const [search] = useAddress();
  const rig = observatory?.rigs.find(({ id }) => id === search.get('rig')) ?? observatory?.rigs[0];
  const before = observatory?.rigs.find(({ id }) => id === search.get('before') && id !== rig?.id);
  const framing = useFraming(rig, before, widthPx);
  if (error) return <Failure words={wordsOf(error)} />;
  if (!observatory) return <Loading what="the rigs" rows={4} />;
  if (!rig) return <Empty title="There is no rig to frame with yet.">Add the first one on the Observatory page.</Empty>;
  const { settled, change } = framing;
  const choose = ({ designation, raDeg, decDeg, sizeArcmin }: FoundTarget): void => {
    const subject = { name: designation, raDeg, decDeg, sizeArcmin, outline: null };
    change({ ra: String(raDeg), dec: String(decDeg), look: null, wide: null, ...subjectAddress(subject) });
  };
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1 className="text-2xl">Framing</h1>
        <RigChoice rigs={observatory.rigs} rig={rig} isFramed={settled !== null} onChange={change} />
        <TargetSearch label="target" onChoose={choose} />
      </div>
      {settled ? (
        <Composing framing={{ ...framing, settled }} rig={rig} before={before} skyRef={skyRef} />
      ) : (
        <Empty title="Find a target to frame.">By designation, name, or coordinates like 05 38 42 −69 06 03.</Empty>
      )}
    </>
  );
}

interface ComposingProps {
  readonly framing: Framing;
  readonly rig: Rig;
  readonly before: Rig | undefined;
  readonly skyRef: (element: HTMLElement | null) => void;
}

function Composing({ framing, rig, before, skyRef }: ComposingProps) {
  const { search, change, settled, composition, framed: frame, framedBefore, view, around, content, hold } = framing;
  const { role } = useAccount();
  const [drawn, setDrawn] = useState<readonly SkyPosition[] | null>(null);
  const [shot, setShot] = useState<readonly SkyPosition[] | null>(null);
  const [pictures, setPictures] = useState<PictureProgress>({ wanted: 0, there: 0, failed: 0 });
  const wish = skyWishFrom(search);
  // What takes longer than a frame to work out follows the hand, or waits until it rests.
  const settledFrame = useMemo(() => framed(settled, rig), [settled, rig]);
  const troubles = useMemo(
    () => (around ? troublesIn(settledFrame, rig, around.stars) : []),
    [settledFrame, rig, around],
  );
  const take = (changes: Partial<Composition>): void => change({ look: null, ...addressOf(changes) });
  const look = (centre: SkyPosition): void => hold({ look: centre });
  const zoom = (widthDeg: number): void => hold({ look: view.centre, wideDeg: clampedWidthDeg(widthDeg) });
  const setSubject = (subject: FramedSubject): void => change(subjectAddress(subject));
  return (
    <div className="mt-4 grid gap-8 lg:grid-cols-[minmax(0,1fr)_340px]">
      <div className="self-start lg:sticky lg:top-2">
        <div ref={skyRef}>
          <FrameSky
            view={view}
            composition={composition}
            framed={frame}
            onMove={(centre) => hold({ centre, look: view.centre })}
            onTurn={(positionAngleDeg) => hold({ positionAngleDeg })}
            onLook={look}
            onZoom={(factor) => zoom(view.widthDeg * factor)}
            onCorner={drawn && ((corner) => setDrawn([...drawn, corner]))}
            marks={
              <Marks
                view={view}
                composition={composition}
                framed={frame}
                rig={rig}
                before={framedBefore}
                drawn={drawn}
                shot={shot}
              />
            }
          >
            {wish.pictures && (
              <SurveyLayer view={view} brightness={wish.brightness} contrast={wish.contrast} onProgress={setPictures} />
            )}
            <SkyMap view={view} content={content} names={wish.names} grid={wish.grid} />
          </FrameSky>
        </div>
        <SkyPictures wish={wish} widthDeg={view.widthDeg} progress={pictures} onChange={change} onWidth={zoom} />
      </div>
      <aside>
        <h2 className="font-serif text-xl">{settled.targetName || 'A typed place'}</h2>
        {before && framedBefore && (
          <KeepWhat composition={settled} rig={rig} before={before} framedBefore={framedBefore} onChange={change} />
        )}
        <Numbers composition={composition} onChange={(changes) => change(addressOf(changes))} />
        <p className="mt-2 flex flex-wrap gap-3">
          <button type="button" className="act" onClick={() => look(composition.centre)}>
            Look at the frame
          </button>
          <button type="button" className="act" onClick={() => take({ centre: settled.subject })}>
            Back to the target
          </button>
        </p>
        <Amounts composition={composition} framed={frame} rig={rig} onChange={change} />
        <Room title="Fit for me">
          <FitForMe
            key={`${JSON.stringify([settled.subject, settled.others])} ${rig.id}`}
            composition={settled}
            rig={rig}
            onTake={take}
          />
        </Room>
        {around && (
          <Room title="Stars in the field" remark={starsRemark(troubles.length)}>
            <FieldStars
              composition={settled}
              framed={settledFrame}
              rig={rig}
              stars={around.stars}
              troubles={troubles}
              onMove={(centre) => change(addressOf({ centre }))}
            />
          </Room>
        )}
        <Room title="Camera angle">
          <CameraAngle
            rig={rig}
            positionAngleDeg={settled.positionAngleDeg}
            onTake={(positionAngleDeg) => change(addressOf({ positionAngleDeg }))}
          />
        </Room>
        <Room title="Subject and neighbours">
          <Subjects
            subject={settled.subject}
            others={settled.others}
            drawn={drawn}
            onDraw={setDrawn}
            onSubject={setSubject}
            onOthers={(others) => change(addressOf({ others }))}
          />
        </Room>
        <Room title="Test shot">
          <TestShot composition={settled} framed={settledFrame} rig={rig} onShow={setShot} onTake={take} />
        </Room>
        <Room title="Files">
          <FramingFiles composition={settled} framed={settledFrame} rig={rig} onTake={take} onSubject={setSubject} />
        </Room>
        {role !== 'guest' && settledFrame.panels.length > 0 && (
          <Sending framing={framing} framedPanels={sentPanels(settledFrame.panels)} rig={rig} />
        )}
      </aside>
    </div>
  );
}

/** Facts, remarks and what stands in the way, following the hand. */
function Amounts({
  composition,
  framed: frame,
  rig,
  onChange,
}: Pick<Framing, 'composition' | 'framed'> & { rig: Rig; onChange: Framing['change'] }) {
  const [shownComposition, shownFrame] = [useDeferredValue(composition), useDeferredValue(frame)];
  const { facts, remarks, problem } = useMemo(
    () => amountsOf(shownComposition, shownFrame, rig),
    [shownComposition, shownFrame, rig],
  );
  return (
    <>
      <ul className="mt-4" aria-label="What it amounts to">
        {facts.map((fact) => (
          <li key={fact} className="rule py-1">
            {fact}
          </li>
        ))}
        {remarks.map((remark) => (
          <li key={remark} className="rule py-1 text-signal">
            {remark}
          </li>
        ))}
      </ul>
      {problem && (
        <div role="alert" className="mt-3 border-l-2 border-signal py-1 pl-3">
          <p>{problem}</p>
          {composition.layout === 'one_plane' && (
            <button type="button" className="act mt-2" onClick={() => onChange({ layout: 'one_angle' })}>
              Use one camera angle
            </button>
          )}
        </div>
      )}
    </>
  );
}

/** Where the composition goes: a new project, one that is there, or the shelf. */
function Sending({
  framing: { settled, search },
  framedPanels,
  rig,
}: {
  framing: Framing;
  framedPanels: ReturnType<typeof sentPanels>;
  rig: Rig;
}) {
  const { problem } = amountsOf(settled, framed(settled, rig), rig);
  const text = compositionText(search, rig.id);
  if (problem) return null;
  return (
    <>
      <BeginProject composition={settled} rigId={rig.id} panels={framedPanels} compositionText={text} />
      <FrameAnew rigId={rig.id} panels={framedPanels} compositionText={text} projectId={search.get('project') ?? ''} />
      <KeepComposition composition={settled} compositionText={text} />
    </>
  );
}

const starsRemark = (count: number): string | undefined =>
  count === 0 ? undefined : count === 1 ? 'one to mind' : `${count} to mind`;

/** One concern of framing, folded away and not worked out until it is wanted. */
function Room({ title, remark, children }: { title: string; remark?: string; children: ReactNode }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <details className="rule py-1.5" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer font-serif">
        {title} {remark && <span className="font-sans text-sm text-signal">{remark}</span>}
      </summary>
      {isOpen && <div className="py-2">{children}</div>}
    </details>
  );
}
