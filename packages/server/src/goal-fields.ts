// What people edit of a goal, for every module that does it.
import { editableTable } from './modules/changes/index.ts';

export const GOAL_FIELDS = editableTable('goals', 'Goal', ['wanted', 'enabled', 'why', 'recipeRevisionId']);
