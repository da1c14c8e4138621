import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface OneTimeLink extends Row<OneTimeLink> {
  id: CreationOptional<string>;
  observatoryId: CreationOptional<string | null>;
  tokenSha256: Buffer;
  kind: 'found' | 'invite' | 'reset';
  personId: CreationOptional<string | null>;
  invited: CreationOptional<object>;
  madeBy: CreationOptional<string | null>;
  made: CreationOptional<Date>;
  expires: Date;
  used: CreationOptional<Date | null>;
}

export const defineOneTimeLink = (sequelize: Sequelize): ModelStatic<OneTimeLink> =>
  sequelize.define<OneTimeLink>(
    'OneTimeLink',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, references: { model: 'observatories', key: 'id' } },
      tokenSha256: { type: DataTypes.BLOB, allowNull: false },
      kind: { type: DataTypes.TEXT, allowNull: false, validate: { isIn: [['found', 'invite', 'reset']] } },
      personId: { type: DataTypes.UUID, references: { model: 'people', key: 'id' } },
      invited: { type: DataTypes.JSONB },
      madeBy: { type: DataTypes.UUID, references: { model: 'people', key: 'id' } },
      made: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      expires: { type: DataTypes.DATE, allowNull: false },
      used: { type: DataTypes.DATE },
    },
    { tableName: 'one_time_links' },
  );
