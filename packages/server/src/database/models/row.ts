import type { InferAttributes, InferCreationAttributes, Model } from 'sequelize';

/** A row with its columns as attributes, in camel case. */
export interface Row<M extends Model> extends Model<InferAttributes<M>, InferCreationAttributes<M>> {}
