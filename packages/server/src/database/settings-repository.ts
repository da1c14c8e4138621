// An observatory's settings: one JSON value a key.
import type { Queries } from './connection.ts';

export async function settingOf<T extends object>(
  { models }: Queries,
  observatoryId: string,
  key: string,
): Promise<T | null> {
  const row = await models.Setting.findOne({ where: { observatoryId, key } });
  return (row?.value as T | undefined) ?? null;
}

export const storeSetting = (
  { models }: Queries,
  observatoryId: string,
  key: string,
  value: object,
): Promise<unknown> => models.Setting.upsert({ observatoryId, key, value });
