import type { BodyOf, CameraMode, ClimateMonth, Filter, Observatory, QueryOf, Recipe, Rig } from '@meridiem/contract';
import type { NightRuleName } from '@meridiem/core';
import {
  addClosure,
  reviseCameraMode,
  retireRig,
  retireRecipe,
  retireFilter,
  retireCameraMode,
  restoreRetired,
  renameRig,
  renameRecipe,
  copyRig,
  addFilter,
  addCameraMode,
  addRecipe,
  addRig,
  checkSunset,
  clearSurveyPictures,
  editClimateMonth,
  editFilter,
  editObservatory,
  editRigDevices,
  editSurveySource,
  readGearChanges,
  readNightSky,
  readObservatory,
  readRigDevices,
  readStepTimes,
  removeClosure,
  replaceHorizon,
  reviseRecipe,
  reviseRig,
  setLimit,
  setLearnsTimes,
  setRigSteps,
  setNightRule,
  testRigDevices,
} from '@meridiem/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../../app/api.ts';
import { SURVEY_SOURCE } from '../../sky-field/survey-source.ts';

export const useObservatory = () =>
  useQuery({ queryKey: ['observatory'], queryFn: ({ signal }) => call(readObservatory, { signal }) });

export const useTonightSky = () =>
  useQuery({
    queryKey: ['sky', 'tonight'],
    queryFn: ({ signal }) => call(readNightSky, { params: { nightDate: 'tonight' }, signal }),
  });

export const useSunset = (place: QueryOf<typeof checkSunset> | null) =>
  useQuery({
    queryKey: ['sunset', place],
    queryFn: ({ signal }) => call(checkSunset, { query: place!, signal }),
    enabled: place !== null,
    retry: false,
  });

export const useGearChanges = (rigId: string) =>
  useQuery({
    queryKey: ['observatory', 'gear changes', rigId],
    queryFn: ({ signal }) => call(readGearChanges, { params: { id: rigId }, signal }),
  });

export const useStepTimes = (rigId: string, enabled: boolean) =>
  useQuery({
    queryKey: ['observatory', 'step times', rigId],
    queryFn: ({ signal }) => call(readStepTimes, { params: { id: rigId }, signal }),
    enabled,
  });

/** How a rig's devices are reached, for coordinators. */
export function useRigDevices(rigId: string) {
  const queryClient = useQueryClient();
  const params = { id: rigId };
  const { data } = useQuery({
    queryKey: ['observatory', 'devices', rigId],
    queryFn: ({ signal }) => call(readRigDevices, { params, signal }),
  });
  const changes = {
    set: async (kind: Rig['devices'], url: string | null): Promise<void> => {
      await call(editRigDevices, { params, body: { kind, url } });
      await queryClient.invalidateQueries({ queryKey: ['observatory'] });
    },
    test: () => call(testRigDevices, { params }),
    nightRule: async (name: NightRuleName, value: number | null): Promise<void> => {
      await call(setNightRule, { params, body: { name, value } });
      await queryClient.invalidateQueries({ queryKey: ['observatory', 'devices', rigId] });
    },
  };
  return { data, changes };
}
export type RigDeviceChanges = ReturnType<typeof useRigDevices>['changes'];

/** Every change of the observatory answers with the whole of it as it is then. */
export function useObservatoryChanges() {
  const queryClient = useQueryClient();
  const after = async (work: Promise<Observatory>): Promise<void> => {
    queryClient.setQueryData(['observatory'], await work);
  };
  return {
    site: (body: BodyOf<typeof editObservatory>) => after(call(editObservatory, { body })),
    horizon: (text: string, asSeen: boolean) => after(call(replaceHorizon, { body: { text, asSeen } })),
    climateMonth: ({ id, version }: ClimateMonth, clearOdds: number) =>
      after(call(editClimateMonth, { params: { id }, body: { version, clearOdds } })),
    close: (body: BodyOf<typeof addClosure>) => after(call(addClosure, { body })),
    open: (id: string) => after(call(removeClosure, { params: { id } })),
    rig: (rig: Rig, fields: Omit<BodyOf<typeof reviseRig>, 'basedOnSeq'>) =>
      after(call(reviseRig, { params: { id: rig.id }, body: { basedOnSeq: rig.revisionSeq, ...fields } })),
    learnsTimes: (rig: Rig, learnsTimes: boolean) =>
      after(call(setLearnsTimes, { params: { id: rig.id }, body: { learnsTimes } })),
    steps: (rig: Rig, steps: Rig['steps']) => after(call(setRigSteps, { params: { id: rig.id }, body: { steps } })),
    addRig: (body: BodyOf<typeof addRig>) => after(call(addRig, { body })),
    copyRig: ({ id }: Rig, body: BodyOf<typeof copyRig>) => after(call(copyRig, { params: { id }, body })),
    renameRig: ({ id }: Rig, name: string) => after(call(renameRig, { params: { id }, body: { name } })),
    retireRig: ({ id }: Rig) => after(call(retireRig, { params: { id } })),
    restore: (id: string) => after(call(restoreRetired, { params: { id } })),
    addMode: ({ id }: Rig, body: BodyOf<typeof addCameraMode>) => after(call(addCameraMode, { params: { id }, body })),
    mode: ({ id, revisionSeq }: CameraMode, fields: Omit<BodyOf<typeof reviseCameraMode>, 'basedOnSeq'>) =>
      after(call(reviseCameraMode, { params: { id }, body: { basedOnSeq: revisionSeq, ...fields } })),
    retireMode: ({ id }: CameraMode) => after(call(retireCameraMode, { params: { id } })),
    addFilter: (body: BodyOf<typeof addFilter>) => after(call(addFilter, { body })),
    retireFilter: ({ id }: Filter) => after(call(retireFilter, { params: { id } })),
    filter: (filter: Filter, fields: Omit<BodyOf<typeof editFilter>, 'version'>) =>
      after(call(editFilter, { params: { id: filter.id }, body: { version: filter.version, ...fields } })),
    addRecipe: (body: BodyOf<typeof addRecipe>) => after(call(addRecipe, { body })),
    recipe: (recipe: Recipe, fields: Omit<BodyOf<typeof reviseRecipe>, 'basedOnSeq'>) =>
      after(call(reviseRecipe, { params: { id: recipe.id }, body: { basedOnSeq: recipe.revisionSeq, ...fields } })),
    renameRecipe: ({ id }: Recipe, name: string) => after(call(renameRecipe, { params: { id }, body: { name } })),
    retireRecipe: ({ id }: Recipe) => after(call(retireRecipe, { params: { id } })),
    skySource: async (template: string | null) => {
      await call(editSurveySource, { body: { template } });
      await queryClient.invalidateQueries({ queryKey: SURVEY_SOURCE });
    },
    clearPictures: async () => {
      await call(clearSurveyPictures, {});
      await queryClient.invalidateQueries({ queryKey: SURVEY_SOURCE });
    },
    limit: async (body: BodyOf<typeof setLimit>) => {
      await call(setLimit, { body });
      await queryClient.invalidateQueries({ queryKey: ['observatory'] });
    },
  };
}
export type ObservatoryChanges = ReturnType<typeof useObservatoryChanges>;
