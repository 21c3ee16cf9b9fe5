import type { EvacuationBodies } from '#core/tape'
import { VACUUM_METHOD_WORDS, inSentence } from '../en'
import type { Words } from './say'

export const evacuation: Words<EvacuationBodies> = {
  'vacuum-noted': ({ pressurePa }, { show }) => `Vacuum ${show('vacuum', pressurePa)}`,
  'hold-started': ({ pressurePa }, { show }) => `Pump valved off at ${show('vacuum', pressurePa)}`,
  'hold-ended': ({ pressurePa }, { show }) => `Hold ended at ${show('vacuum', pressurePa)}`,
  'hold-curve': ({ readings }) => `What the gauge said in the hold: ${readings.length} readings`,
  'vacuum-planned': ({ method, gaugeAt, hose, coresOut, targetPa }, { show }) =>
    `Vacuum: ${inSentence(VACUUM_METHOD_WORDS[method])}, down to ${show('vacuum', targetPa)}, ${hose} in hose, cores ${coresOut ? 'out' : 'in'}, gauge at the ${gaugeAt}`,
  'kit-proof': ({ reachedPa, heldPa, forS }, { show }) =>
    `Kit alone: down to ${show('vacuum', reachedPa)}, ${show('vacuum', heldPa)} after ${Math.round(forS / 60)} min`,
  'nitrogen-let-in': ({ pressurePa }, { show }) =>
    `Vacuum broken with dry nitrogen, to ${show('pressure', pressurePa)}`,
}
