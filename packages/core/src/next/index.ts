export {
  type Looked,
  type NextStep,
  nextStep,
  type Progress,
  type StepCode,
  stepCodes,
  type Unknown,
} from './next-step.ts';
