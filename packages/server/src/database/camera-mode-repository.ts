// A camera mode's numbers in statements: they live in dated revisions.

/** Joins the numbers in force now of a recipe revision's mode. */
export const modeNow = (recipeRevision: string, as: string): string =>
  `JOIN camera_mode_revisions ${as} ON ${as}.camera_mode_id = ${recipeRevision}.camera_mode_id AND upper_inf(${as}.during)`;

/** Read noise of a rig at a gain and a moment: of the mode that had that gain then, else of the nearest in time, else of the lowest gain. */
export const readNoiseAt = (rigId: string, gain: string, moment: string): string =>
  `(SELECT n.read_noise_e FROM camera_modes o JOIN camera_mode_revisions n ON n.camera_mode_id = o.id WHERE o.rig_id = ${rigId}
    ORDER BY (n.gain = ${gain}) DESC, (n.during @> ${moment}) DESC, n.gain, lower(n.during) DESC LIMIT 1)`;

/** Dark current of a camera row at a sensor temperature: doubled by each so many degrees from where it was measured. */
export const darkCurrentAt = (camera: string, sensorC: string): string =>
  `(${camera}.dark_current_e_per_s * power(2, (coalesce(${sensorC}, ${camera}.dark_at_c) - ${camera}.dark_at_c) / ${camera}.dark_doubling_c))`;
