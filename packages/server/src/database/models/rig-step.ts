import type { CreationOptional, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes, literal } from 'sequelize';
import type { Row } from './row.ts';

export interface RigStep extends Row<RigStep> {
  id: CreationOptional<string>;
  observatoryId: string;
  rigId: string;
  moment: 'arriving' | 'leaving' | 'before_wait' | 'after_wait';
  position: number;
  words: string;
}

export const defineRigStep = (sequelize: Sequelize): ModelStatic<RigStep> =>
  sequelize.define<RigStep>(
    'RigStep',
    {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false, defaultValue: literal('gen_random_uuid()') },
      observatoryId: { type: DataTypes.UUID, allowNull: false },
      rigId: { type: DataTypes.UUID, allowNull: false, references: { model: 'rigs', key: 'id' } },
      moment: {
        type: DataTypes.TEXT,
        allowNull: false,
        validate: { isIn: [['arriving', 'leaving', 'before_wait', 'after_wait']] },
      },
      position: { type: DataTypes.INTEGER, allowNull: false },
      words: { type: DataTypes.TEXT, allowNull: false },
    },
    { tableName: 'rig_steps' },
  );
