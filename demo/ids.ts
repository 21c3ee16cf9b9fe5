import { v5 } from 'uuid'

const NAMESPACE = '6f1a51f0-7d2c-4c1e-9d5e-3b0c8e3f5a11'

/** The same id for the same name, every time. */
export const idFor = (name: string): string => v5(name, NAMESPACE)
