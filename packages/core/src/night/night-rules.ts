// The numbers by which a night by devices is carried out, each with its usual value, its bounds and what it is for.

export interface NightRule {
  readonly name: string;
  readonly unit: string;
  readonly usual: number;
  readonly least: number;
  readonly most: number;
  readonly help: string;
}

const rule = (name: string, unit: string, [usual, least, most]: readonly [number, number, number], help: string) =>
  ({ name, unit, usual, least, most, help }) satisfies NightRule;

export const NIGHT_RULES = {
  coolingLeadMin: rule('Cooling begins', 'min', [25, 0, 180], 'before the first exposure of the night'),
  cooledWithinC: rule('Cold enough within', '°C', [0.5, 0.1, 5], 'of the temperature that the recipe asks for'),
  safeHoldMin: rule('Safe before the roof opens', 'min', [20, 0, 240], 'how long the sky must have been safe again'),
  windPauseMPerSec: rule('Wind: pause above', 'm/s', [11, 1, 40], 'the mount is parked, the roof stays open'),
  windResumeMPerSec: rule('Wind: go on below', 'm/s', [8, 0, 40], 'for as long as conditions must hold'),
  cloudPausePercent: rule('Cloud: pause above', '%', [70, 5, 100], 'cover as the weather station says'),
  cloudResumePercent: rule('Cloud: go on below', '%', [40, 0, 100], 'for as long as conditions must hold'),
  coldPauseC: rule('Cold: pause below', '°C', [-25, -60, 20], 'temperature of the air'),
  coldResumeC: rule('Cold: go on above', '°C', [-22, -60, 25], 'for as long as conditions must hold'),
  conditionsHoldMin: rule('Conditions must hold', 'min', [10, 0, 120], 'before a paused night goes on'),
  starLossPercent: rule('Stars lost', '%', [60, 10, 99], 'fewer than in the best exposure of the stay count as cloud'),
  starLossTries: rule('Pauses for lost stars', 'times', [3, 1, 20], 'at one panel before it is left for tonight'),
  guidingSteadyArcsec: rule(
    'Guiding is steady below',
    '″',
    [1.2, 0.2, 10],
    'before the first exposure and after a dither',
  ),
  guidingPauseArcsec: rule('Guiding: start again above', '″', [3, 0.5, 30], 'after an exposure with larger errors'),
  guidingTries: rule('Guiding started again', 'times', [3, 1, 20], 'in a row before the target is left for tonight'),
  focusStepSteps: rule('Focus: step', 'steps', [250, 5, 20_000], 'between two of the seven places that are tried'),
  focusExposureSec: rule('Focus: exposure', 's', [6, 1, 120], 'of each place that is tried'),
  focusAfterC: rule('Focus after', '°C', [2, 0.2, 30], 'of change in the air since the last focus'),
  focusAfterGrowthPercent: rule(
    'Focus after growth',
    '%',
    [25, 3, 300],
    'of the stars since the last focus, in one filter',
  ),
  solveExposureSec: rule('Pointing: exposure', 's', [15, 1, 300], 'of the picture that is solved'),
  centredWithinArcsec: rule('Centred within', '″', [30, 1, 1800], 'of the wanted place'),
  longestHoldMin: rule('Longest hold by hand', 'min', [60, 1, 600], 'then the night goes on by itself'),
  flatsLongestMin: rule(
    'Flats after the night',
    'min',
    [0, 0, 600],
    'at most, by a light of the rig’s own under the closed roof; 0: none are taken',
  ),
  flatLevelPercent: rule('Flats: level', '%', [45, 10, 80], 'of what a pixel can hold; the exposure is found by test'),
  flatPanelAltitudeDeg: rule(
    'Flat light: altitude',
    '°',
    [-1, -1, 90],
    'where the telescope must point to see it; −1: it covers the telescope, or lies before it where it is parked',
  ),
  flatPanelAzimuthDeg: rule('Flat light: azimuth', '°', [0, 0, 360], 'where the telescope must point to see it'),
  skyFlatsLongestMin: rule(
    'Flats of the sky',
    'min',
    [0, 0, 60],
    'at most at dusk before the night and at dawn after it; 0: none are taken',
  ),
  skyFlatsHighestSunDeg: rule(
    'Flats of the sky: Sun below',
    '°',
    [-3, -8, -1],
    'while it is higher the roof is closed',
  ),
  darksLongestMin: rule(
    'Darks and bias after the night',
    'min',
    [0, 0, 600],
    'at most, with the roof closed, of what calibration is missing; 0: none are taken',
  ),
  flatsAngleWithinDeg: rule(
    'Flats fit within',
    '°',
    [2, 0.1, 45],
    'of the camera’s angle on the telescope, modulo 360',
  ),
  flatsFewest: rule('Flats in a set', 'at least', [10, 1, 200], 'fewer are too few'),
  flatsKeepDays: rule('Flats keep for', 'days', [30, 1, 3650], 'before and after their lights'),
  darksWithinC: rule('Darks fit within', '°C', [1, 0.1, 10], 'of the sensor’s temperature'),
  darksFewest: rule('Darks in a set', 'at least', [10, 1, 200], 'fewer are too few; darks for flats as well'),
  biasFewest: rule('Bias in a set', 'at least', [20, 1, 500], 'fewer are too few'),
  darksKeepDays: rule('Darks and bias keep for', 'days', [365, 1, 3650], 'before and after their lights'),
  guideDarksKeepDays: rule(
    'Guide camera’s darks keep for',
    'days',
    [0, 0, 365],
    'then the guider takes new ones, with the roof closed; 0: it takes none',
  ),
  guideDarksSec: rule('Guide camera’s darks: exposure', 's', [2, 0.1, 60], 'as long as it guides'),
  guideDarksCount: rule('Guide camera’s darks in a set', 'darks', [20, 1, 200], 'taken one after the other'),
  closingTries: rule('Closing is tried', 'times', [6, 1, 50], 'each failed try calls a person again'),
  closingPauseMin: rule('Between two tries', 'min', [5, 0.5, 60], 'of closing'),
} as const;
export type NightRuleName = keyof typeof NIGHT_RULES;
export type NightRules = Readonly<Record<NightRuleName, number>>;

export const NIGHT_RULE_NAMES = Object.keys(NIGHT_RULES) as NightRuleName[];

/** Every number: a rig's own where it has one, else the usual. */
export const nightRulesWith = (own: Readonly<Partial<Record<NightRuleName, number>>>): NightRules =>
  Object.fromEntries(NIGHT_RULE_NAMES.map((name) => [name, own[name] ?? NIGHT_RULES[name].usual])) as NightRules;

/** Which of two limits must be the smaller: a night that pauses at one must not go on at once. */
const IN_ORDER: readonly (readonly [NightRuleName, NightRuleName])[] = [
  ['windResumeMPerSec', 'windPauseMPerSec'],
  ['cloudResumePercent', 'cloudPausePercent'],
  ['coldPauseC', 'coldResumeC'],
  ['guidingSteadyArcsec', 'guidingPauseArcsec'],
];

/** What is wrong with a number for a rig with these rules, in words; null where it is right. */
export function nightRuleFault(rules: NightRules, name: NightRuleName, value: number): string | null {
  const { least, most, unit } = NIGHT_RULES[name];
  if (!(value >= least && value <= most)) return `from ${least} to ${most} ${unit}`.replaceAll('-', '−').trim();
  const next = { ...rules, [name]: value };
  const broken = IN_ORDER.find((pair) => pair.includes(name) && next[pair[0]] > next[pair[1]]);
  if (!broken) return null;
  const other = broken[0] === name ? broken[1] : broken[0];
  return `${broken[0] === name ? 'at most' : 'at least'} ${next[other]} ${unit}, as “${NIGHT_RULES[other].name}” says`;
}

export interface AirConditions {
  readonly windMPerSec: number | null;
  readonly cloudCoverPercent: number | null;
  readonly temperatureC: number | null;
}

/** Why the air stops a night, in words; null while it may go on. What is not measured stops nothing. */
export function pauseWords(
  rules: NightRules,
  { windMPerSec, cloudCoverPercent, temperatureC }: AirConditions,
): string | null {
  if (windMPerSec !== null && windMPerSec > rules.windPauseMPerSec) return `wind of ${windMPerSec.toFixed(0)} m/s`;
  if (cloudCoverPercent !== null && cloudCoverPercent > rules.cloudPausePercent)
    return `${cloudCoverPercent.toFixed(0)} % cloud`;
  if (temperatureC !== null && temperatureC < rules.coldPauseC)
    return `air at ${temperatureC.toFixed(0).replace('-', '−')} °C`;
  return null;
}

/** Whether the air is good enough for a paused night to go on. */
export const mayResume = (
  rules: NightRules,
  { windMPerSec, cloudCoverPercent, temperatureC }: AirConditions,
): boolean =>
  (windMPerSec === null || windMPerSec < rules.windResumeMPerSec) &&
  (cloudCoverPercent === null || cloudCoverPercent < rules.cloudResumePercent) &&
  (temperatureC === null || temperatureC > rules.coldResumeC);
