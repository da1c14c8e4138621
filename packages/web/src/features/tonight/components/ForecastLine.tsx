import type { NightForecast, NightSky } from '@meridiem/contract';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { useAccount } from '../../../app/session.ts';
import { stripScale, xOf } from '../../../night-strip/geometry.ts';
import { WhyMark } from '../../../why/why-context.tsx';
import { clock, hours, percent } from '../../../words/format.ts';
import { useForecast, useForecastActions } from '../queries.ts';
import { forecastWords } from '../view-model.ts';

const HOUR_MS = 3_600_000;

/** Go, wait or no-go for the night, with the hours expected clear, how far the sources agree, and the night hour by hour. */
export function ForecastLine({ sky, zone }: { sky: NightSky; zone: string }) {
  const { data } = useForecast(sky.nightDate);
  const { role } = useAccount();
  const notice = useNotice();
  const { ask, take } = useForecastActions();
  const [text, setText] = useState<string | null>(null);
  if (!data) return <p className="mt-1 h-[21px] text-soft">Looking for a forecast</p>;
  const refuse = (error: unknown): void => notice(wordsOf(error), true);
  return (
    <section aria-label="Forecast" className="mt-1">
      <p className="flex flex-wrap items-baseline gap-x-2">
        <strong className={`font-serif font-medium ${data.call === 'no_go' ? 'text-signal' : ''}`}>
          {forecastWords(data)}
        </strong>
        {data.hours.length > 0 && <span className="text-soft">(bars: sources that call the hour clear)</span>}
        {data.sources.length > 0 && <WhyMark note={{ title: 'The forecast', paragraphs: sourceWords(data, zone) }} />}
        {role === 'coordinator' && (
          <span className="no-print ml-auto flex gap-3 text-soft">
            <button
              type="button"
              className="word-link cursor-pointer"
              disabled={ask.isPending}
              onClick={() =>
                ask.mutate(undefined, {
                  onError: refuse,
                  onSuccess: ({ sources }) => notice(`${sources} sources asked`),
                })
              }
            >
              Refresh forecast
            </button>
            <button
              type="button"
              className="word-link cursor-pointer"
              onClick={() => setText(text === null ? '' : null)}
            >
              Import a file
            </button>
          </span>
        )}
      </p>
      {data.hours.length > 0 && <HourBars forecast={data} sky={sky} zone={zone} />}
      {text !== null && (
        <form
          aria-label="A forecast as CSV or JSON"
          className="no-print mt-2 flex flex-wrap items-start gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            take.mutate(text, {
              onError: refuse,
              onSuccess: (taken) => {
                setText(null);
                notice(`${taken.hours} hours of ${taken.sources} sources imported`);
              },
            });
          }}
        >
          <label className="grow">
            <span className="text-soft">
              CSV with source, hour_utc, cloud_percent, wind_m_per_s, humidity_percent; or the same as JSON objects
            </span>
            <textarea
              rows={4}
              className="block w-full font-mono text-xs"
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
          </label>
          <label className="act">
            choose a file
            <input
              type="file"
              className="sr-only"
              accept=".csv,.json,text/csv,application/json"
              onChange={(event) => void event.target.files?.[0]?.text().then(setText)}
            />
          </label>
          <button type="submit" className="act" disabled={take.isPending || text.trim() === ''}>
            Import
          </button>
        </form>
      )}
    </section>
  );
}

/** One bar an hour on the night's axis: as high as the share of sources that call it clear. */
function HourBars({ forecast, sky, zone }: { forecast: NightForecast; sky: NightSky; zone: string }) {
  const scale = stripScale(sky, 100);
  const shown = forecast.hours.filter(({ utcMs }) => utcMs + HOUR_MS > scale.startUtcMs && utcMs < scale.endUtcMs);
  return (
    <div className="relative mt-1 h-[14px] border-b border-hairline" role="img" aria-label={hourWords(forecast, zone)}>
      {shown.map(({ utcMs, clearShare, bySource }) => {
        const left = Math.max(0, xOf(scale, utcMs));
        const right = Math.min(100, xOf(scale, utcMs + HOUR_MS));
        const detail = bySource
          .map(
            (one) =>
              `${one.source}: cloud ${percent(one.cloudShare)}, wind ${one.windMPerSec.toFixed(0)} m/s, humidity ${percent(one.humidityShare)}`,
          )
          .join('; ');
        return (
          <span
            key={utcMs}
            title={`${clock(utcMs, zone)}–${clock(utcMs + HOUR_MS, zone)}. ${detail}`}
            className="absolute bottom-0 top-0 border-r border-ground"
            style={{ left: `${left}%`, width: `${right - left}%` }}
          >
            <span
              className={`absolute bottom-0 left-0 right-0 ${clearShare >= 0.99 ? 'bg-soft' : 'hatched bg-soft'}`}
              style={{ height: `${100 * clearShare}%` }}
            />
          </span>
        );
      })}
    </div>
  );
}

const hourWords = ({ hours: all }: NightForecast, zone: string): string =>
  `Share of sources that expect a clear sky: ${all.map(({ utcMs, clearShare }) => `${clock(utcMs, zone)} ${percent(clearShare)}`).join(', ')}`;

const sourceWords = ({ sources }: NightForecast, zone: string): string[] => [
  ...sources.map(
    ({ source, hoursClear, issuedUtcMs }) =>
      `${source}: ${hours(hoursClear)} h of darkness clear; received ${clock(issuedUtcMs, zone)}.`,
  ),
  'An hour counts as clear with at most 30 % cloud, 12 m/s of wind and 90 % humidity. Go: at least 60 % of the darkness clear; no-go: less than 15 %; else wait. The call is what most sources lead to.',
];
