// A forecast as CSV or JSON to hours; every line that can't be read is named.
import Papa from 'papaparse';
import { CoreError } from '../errors.ts';
import type { ForecastHour } from '../weather/forecast.ts';

/** Columns of the CSV and keys of the JSON objects: cloud and humidity in percent, wind in metres a second. */
export const FORECAST_COLUMNS = ['source', 'hour_utc', 'cloud_percent', 'wind_m_per_s', 'humidity_percent'] as const;

type Line = Readonly<Record<string, unknown>>;

/** @throws TABLE_UNREADABLE naming the first line that can't be read, and why */
export function parseForecast(text: string): ForecastHour[] {
  const lines = text.trimStart().startsWith('[') ? jsonLines(text) : csvLines(text);
  if (lines.length === 0) throw unreadable('There is no hour in it', 0);
  return lines.map(hourOf);
}

function jsonLines(text: string): Line[] {
  let lines: unknown[];
  try {
    lines = JSON.parse(text) as unknown[];
  } catch {
    throw unreadable('This begins like JSON but is none', 0);
  }
  return lines.map((line, i) => {
    if (typeof line === 'object' && line !== null) return line as Line;
    throw unreadable(`Hour ${i + 1} is no object with the keys ${FORECAST_COLUMNS.join(', ')}`, i + 1);
  });
}

function csvLines(text: string): Line[] {
  const { data, meta } = Papa.parse<Line>(text.trim(), { header: true, skipEmptyLines: true });
  const missing = FORECAST_COLUMNS.filter((column) => !meta.fields?.includes(column));
  if (missing.length > 0) throw unreadable(`The columns ${missing.join(', ')} are missing`, 1);
  return data;
}

function hourOf(line: Line, index: number): ForecastHour {
  const place = index + 1;
  const source = String(line.source ?? '').trim();
  if (source === '' || source.length > 60) throw unreadable(`Hour ${place} names no source`, place);
  const text = String(line.hour_utc ?? '');
  const utcMs = Date.parse(/[zZ]$|[+-]\d\d:?\d\d$/.test(text) ? text : `${text}Z`);
  if (Number.isNaN(utcMs)) throw unreadable(`Hour ${place}: "${text}" is no time like 2026-10-11T22:00Z`, place);
  return {
    source,
    utcMs: Math.floor(utcMs / 3_600_000) * 3_600_000,
    cloudShare: numberOf(line, 'cloud_percent', place, 100) / 100,
    windMPerSec: numberOf(line, 'wind_m_per_s', place, 150),
    humidityShare: numberOf(line, 'humidity_percent', place, 100) / 100,
  };
}

function numberOf(line: Line, column: (typeof FORECAST_COLUMNS)[number], place: number, most: number): number {
  const text = String(line[column] ?? '').trim();
  const value = text === '' ? NaN : Number(text);
  if (!(value >= 0 && value <= most))
    throw unreadable(`Hour ${place}: ${column} "${text}" is no number from 0 to ${most}`, place);
  return value;
}

const unreadable = (words: string, line: number): CoreError => new CoreError('TABLE_UNREADABLE', words, { line });
