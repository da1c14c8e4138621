// Where pictures of the sky come from, and how many are kept.
import { readSurveySource } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { call } from '../app/api.ts';

export const SURVEY_SOURCE = ['survey source'];

export const useSurveySource = () =>
  useQuery({ queryKey: SURVEY_SOURCE, queryFn: ({ signal }) => call(readSurveySource, { signal }) });
