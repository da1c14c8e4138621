import type { Rig } from '@meridiem/contract';
import { readObservatory } from '@meridiem/contract';
import type { SkyPosition } from '@meridiem/core';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useAddress } from '../../app/address.ts';
import { call, wordsOf } from '../../app/api.ts';
import { useAccount } from '../../app/session.ts';
import { useSurveySource } from '../../sky-field/survey-source.ts';
import { PictureLayer } from '../../sky-field/PictureLayer.tsx';
import { starMeant } from '../../sky-field/star-meant.ts';
import { SkyMap } from '../../sky-field/SkyMap.tsx';
import type { PictureProgress } from '../../sky-field/SurveyLayer.tsx';
import { SurveyLayer } from '../../sky-field/SurveyLayer.tsx';
import type { FoundTarget } from '../../targets/FoundTargets.tsx';
import { Empty, Failure, Loading } from '../../ui/states.tsx';
import { Room } from '../../ui/Room.tsx';
import { useWidth } from '../../ui/use-width.ts';
import { Amounts } from './components/Amounts.tsx';
import { CameraAngle } from './components/CameraAngle.tsx';
import { FieldStars, troublesIn } from './components/FieldStars.tsx';
import { FitForMe } from './components/FitForMe.tsx';
import { FrameSky } from './components/FrameSky.tsx';
import { FramingFiles } from './components/FramingFiles.tsx';
import { OpticsChoice } from './components/OpticsChoice.tsx';
import { Marks } from './components/Marks.tsx';
import { Numbers } from './components/Numbers.tsx';
import type { LaidPicture } from './components/ReferencePicture.tsx';
import { ReferencePicture } from './components/ReferencePicture.tsx';
import { KeepWhat, RigChoice } from './components/RigChoice.tsx';
import { Sending } from './components/Sending.tsx';
import { SkyPictures, skyWishFrom } from './components/SkyPictures.tsx';
import { Subjects } from './components/Subjects.tsx';
import { TargetSearch } from './components/TargetSearch.tsx';
import { TestShot } from './components/TestShot.tsx';
import { opticsFrom } from './optics.ts';
import type { Framing } from './use-framing.ts';
import { clampedWidthDeg, useFraming } from './use-framing.ts';
import type { Composition, FramedSubject } from './view-model.ts';
import { addressOf, framed, subjectAddress } from './view-model.ts';

const USUAL_WIDTH_PX = 860;
/** A click means what is this near. */
const CLICK_PX = 10;

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
  const optics = useMemo(() => (rig ? opticsFrom(search, rig) : null), [search, rig]);
  const framing = useFraming(optics?.rig, before, widthPx);
  if (error) return <Failure words={wordsOf(error)} />;
  if (!observatory) return <Loading what="the rigs" rows={4} />;
  if (!rig || !optics)
    return <Empty title="There is no rig to frame with yet.">Add the first one on the Observatory page.</Empty>;
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
        <OpticsChoice rig={rig} optics={optics} recipes={observatory.recipes} onChange={change} />
        <TargetSearch label="target" onChoose={choose} />
      </div>
      {settled ? (
        <Composing
          framing={{ ...framing, settled }}
          rig={optics.rig}
          isTrial={optics.triedFocalMm !== null}
          before={before}
          skyRef={skyRef}
        />
      ) : (
        <Empty title="Find a target to frame.">By designation, name, or coordinates like 05 38 42 −69 06 03.</Empty>
      )}
    </>
  );
}

interface ComposingProps {
  readonly framing: Framing;
  readonly rig: Rig;
  /** Framed with optics that the rig does not have. */
  readonly isTrial: boolean;
  readonly before: Rig | undefined;
  readonly skyRef: (element: HTMLElement | null) => void;
}

function Composing({ framing, rig, isTrial, before, skyRef }: ComposingProps) {
  const { search, change, settled, composition, framed: frame, framedBefore, view, around, content, hold } = framing;
  const { role } = useAccount();
  const [drawn, setDrawn] = useState<readonly SkyPosition[] | null>(null);
  const [shot, setShot] = useState<readonly SkyPosition[] | null>(null);
  const [laid, setLaid] = useState<LaidPicture | null>(null);
  const [picked, setPicked] = useState<((star: SkyPosition) => void) | null>(null);
  const [pictures, setPictures] = useState<PictureProgress>({ wanted: 0, there: 0, failed: 0 });
  const { data: source } = useSurveySource();
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
            onCorner={
              drawn
                ? (corner) => setDrawn([...drawn, corner])
                : picked &&
                  ((place) => picked(starMeant(place, around?.stars ?? [], (CLICK_PX * view.widthDeg) / view.widthPx)))
            }
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
            {wish.pictures && source && (
              <SurveyLayer
                view={view}
                brightness={wish.brightness}
                contrast={wish.contrast}
                source={source.key}
                onProgress={setPictures}
              />
            )}
            {laid && <PictureLayer view={view} {...laid} />}
            <SkyMap view={view} content={content} names={wish.names} grid={wish.grid} />
          </FrameSky>
        </div>
        <SkyPictures
          wish={wish}
          widthDeg={view.widthDeg}
          progress={pictures}
          source={source?.template ?? null}
          onChange={change}
          onWidth={zoom}
        />
      </div>
      <aside>
        <h2 className="font-serif text-xl">{settled.targetName || 'A typed place'}</h2>
        {before && framedBefore && (
          <KeepWhat composition={settled} rig={rig} before={before} framedBefore={framedBefore} onChange={change} />
        )}
        <Numbers composition={composition} onChange={(changes) => change(addressOf(changes))} />
        <p className="mt-2 flex flex-wrap gap-3">
          <button type="button" className="act" onClick={() => look(composition.centre)}>
            Zoom to frame
          </button>
          <button type="button" className="act" onClick={() => take({ centre: settled.subject })}>
            Centre on target
          </button>
        </p>
        <Amounts composition={composition} framed={frame} rig={rig} onChange={change} />
        <Room title="Suggest a layout">
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
        <Room title="Reference picture">
          <ReferencePicture laid={laid} onPickStar={(then) => setPicked(() => then)} onLay={setLaid} onTake={take} />
        </Room>
        <Room title="Files">
          <FramingFiles composition={settled} framed={settledFrame} rig={rig} onTake={take} onSubject={setSubject} />
        </Room>
        {role !== 'guest' && settledFrame.panels.length > 0 && (
          <Sending framing={framing} framed={settledFrame} rig={rig} isTrial={isTrial} />
        )}
      </aside>
    </div>
  );
}

const starsRemark = (count: number): string | undefined =>
  count === 0 ? undefined : count === 1 ? 'one to mind' : `${count} to mind`;
