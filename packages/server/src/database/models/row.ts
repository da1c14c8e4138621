import type { InferAttributes, InferCreationAttributes, Model } from 'sequelize';

/** A row with its columns as attributes, in camel case. */
export type Row<M extends Model> = Model<InferAttributes<M>, InferCreationAttributes<M>>;
