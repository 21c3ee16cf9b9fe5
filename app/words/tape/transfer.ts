import type { TransferBodies, WeighMode } from '#core/tape'
import type { Words } from './say'

const mode = (of: WeighMode) => (of === 'gross' ? 'gross' : 'net, scale zeroed')

export const transfer: Words<TransferBodies> = {
  'cylinder-chosen': ({ cylinderId, use }, { cylinder }) =>
    use === 'recover' ? `Recover into ${cylinder(cylinderId)}` : `Charge from ${cylinder(cylinderId)}`,
  'cylinder-released': ({ cylinderId }, { cylinder }) => `${cylinder(cylinderId)} released`,
  'run-started': ({ use, cylinderId, weightMg, mode: m, scale }, { cylinder, show }) =>
    `${use === 'recover' ? 'Recovery into' : 'Charge from'} ${cylinder(cylinderId)} started at ${show('weight', weightMg)} ${mode(m)}${scale ? `, scale ${scale}` : ''}`,
  'weight-noted': ({ weightMg }, { show }) => `Weight ${show('weight', weightMg)}`,
  'scale-changed': ({ weightMg, mode: m, scale, valveShut }, { show }) =>
    `Other scale${scale ? ` (${scale})` : ''}, reads ${show('weight', weightMg)} ${mode(m)}${valveShut ? ', valve shut meanwhile' : ''}`,
  'run-ended': ({ weightMg, hoseMg = 0 }, { show }) =>
    `Transfer ended at ${show('weight', weightMg)}${hoseMg > 0 ? `, ${show('weight', hoseMg)} left in hoses` : ''}`,
}
