export {
  type Looked,
  type NextStep,
  nextStep,
  type Progress,
  type StepCode,
  stepCodes,
  type Unknown,
} from './next-step.ts';
export {
  inOrder,
  isAway,
  openWorth,
  type Worth,
  type WorthCode,
  type WorthMark,
  worthCodes,
} from './worth.ts';
