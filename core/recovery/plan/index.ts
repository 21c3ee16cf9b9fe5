export {
  canPassKgS,
  type CylinderPort,
  type Expected,
  expectedDuration,
  type HoseSize,
  type PastRun,
  type RigPlan,
} from './duration'
export {
  type BeforeRecovery,
  type MethodChoice,
  type MethodReason,
  methodsFor,
  RECOVERY_METHODS,
  type RecoveryMethod,
} from './method'
