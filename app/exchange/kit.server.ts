import { type FactName, KIT_KINDS } from '#core/kit'
import { addKit, changeKit, type KitData, kitList, type KitRow, lock } from '#db'
import { refuse, type Typed } from '~/base/form/read.server'
import { FACT_FIELDS, type FactField } from '~/kit/fields'
import { kitFields, kitProblems, readKit, untouched } from '~/kit/form.server'
import { kindOf } from '~/kit/schema'
import { FILE_UNITS, type Sheet } from './sheet.server'

const FACTS = Object.entries(FACT_FIELDS) as [FactName, FactField][]

function fields(data: KitData): Typed {
  const typed = kitFields(data, FILE_UNITS)
  return {
    kind: data.kind,
    ...Object.fromEntries(
      Object.entries(typed).map(([name, value]) => [
        name,
        FACT_FIELDS[name as FactName]?.type === 'yes' ? (value === 'on' ? 'yes' : 'no') : value,
      ]),
    ),
  }
}

/** All kit in one file: a column is empty where it says nothing of its kind. */
export const kit: Sheet<KitData, KitRow> = {
  title: 'Kit',
  lock: (tx, kitIds) => lock(tx, { kitIds }),
  columns: [
    { name: 'kind', help: KIT_KINDS.join(', '), example: 'scale' },
    { name: 'label', help: 'As it is written on it', example: 'Scale 4' },
    { name: 'keepsAt', help: 'A van, or the shop', example: 'Van 1' },
    { name: 'state', help: 'in-use, repair or retired', example: 'in-use' },
    ...FACTS.map(([name, field]) => ({
      name,
      help: field.type === 'yes' ? `${field.label}: yes or no` : field.label,
      example: name === 'capacityMg' ? '100 kg' : name === 'divisionMg' ? '5 g' : '',
      measured: field.type === 'measure',
    })),
  ],
  nameOf: ({ label = '' }) => label,
  keyOf: ({ kind = '', label = '' }) => (kind && label ? `${kind}\n${label}`.toLowerCase() : ''),
  known: async (tx) => {
    const page = { number: 1, size: 20_000, sort: 'label', down: false } as const
    const [used, away] = await Promise.all([
      kitList(tx, { state: 'in-use' }, page),
      kitList(tx, { state: 'repair' }, page),
    ])
    return [...used.kit, ...away.kit].map((row) => ({ id: row.kitId, row, fields: fields(row) }))
  },
  async read(typed, { tx }) {
    const kind = kindOf(typed.kind ?? '')
    if (!kind)
      return {
        refused: refuse(typed, {
          kind: `“${typed.kind}” is no kind of kit: take one of ${KIT_KINDS.join(', ')}.`,
        }),
      }
    const yeses = Object.fromEntries(
      FACTS.filter(([, field]) => field.type === 'yes').map(([name]) => [
        name,
        /^(yes|y|1|true|on)$/i.test(typed[name] ?? '') ? 'on' : '',
      ]),
    )
    const read = readKit({ ...typed, ...yeses, state: typed.state || 'in-use' }, kind, FILE_UNITS)
    if (read.refused) return { refused: read.refused }
    const errors = await kitProblems(tx, read.data)
    if (Object.keys(errors).length > 0) return { refused: refuse(typed, errors) }
    return { data: read.data }
  },
  fields,
  async add(id, data, _typed, { tx, now }) {
    await addKit(tx, id, data, now)
  },
  async change(id, before, data, { tx }) {
    await changeKit(tx, id, untouched(before, data, FILE_UNITS))
  },
}
