// The database's own moment in values and conditions of models: the same for all that one transaction writes.
import { fn, Op } from 'sequelize';

export const NOW = fn('now');

/** For a membership: in force now. */
export const IN_FORCE = { [Op.contains]: NOW };
