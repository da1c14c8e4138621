import { nightInstance } from '../../bench/instances.ts';
import { drawClearNights, nightDatePlus, observingNight, seasonOfNights, seededRandom } from '@meridiem/core';
import { liveShared } from '../../packages/core/test/fair-life.ts';
const NIGHTS = 60, W = 8;
const one = nightInstance({ seed: 8, goals: 24, night: 40 });
const own = ['A1','B1','C1'].map((n) => ({ projects: one.projects.map((p) => ({ ...p, id: p.id + n, weight: 1 })), panels: one.panels.map((p) => ({ ...p, id: p.id + n, projectId: p.projectId + n })), goals: one.goals.map((g) => ({ ...g, id: g.id + n, panelId: g.panelId + n, toPlan: 4 * g.toPlan, wanted: g.wanted === null ? null : g.wanted + 3 * g.toPlan })) }));
const request = { ...one, projects: own.flatMap((a) => a.projects), panels: own.flatMap((a) => a.panels), goals: own.flatMap((a) => a.goals) };
const season = seasonOfNights({ rigs: [{ rigId: 'r', request, acceptance: {} }], nights: Array.from({ length: NIGHTS }, (_, i) => ({ night: observingNight(nightDatePlus(one.night.nightDate, i - 20), one.timeZone), odds: 0.55 })) });
const memberOf = season.projectIds.map((id) => id.slice(-2, -1));
for (const fairness of [0, 1]) {
  const sum: Record<string, number> = {}; let E = 0;
  for (let d = 0; d < W; d++) { const clear = drawClearNights(new Array(NIGHTS).fill(0.55), 0.35, seededRandom(50 + d)); const l = liveShared({ problem: season.problem, memberOf, sharesOn: () => ({ A: 1, B: 1, C: 1 }), clear, fairness, iterations: 12000 }); for (const [k, m] of Object.entries(l.members)) sum[k] = (sum[k] ?? 0) + m.charged / W; E += l.members.A.entitled / W; if (fairness === 1) console.log(d, Object.values(l.members).map((m) => (m.charged / m.entitled).toFixed(2) + ' m' + m.multiplier.toFixed(2)).join(' ')); }
  console.log(fairness, sum, E);
}
