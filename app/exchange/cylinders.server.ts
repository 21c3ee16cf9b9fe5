import { randomUUID } from 'node:crypto'
import {
  addCylinder,
  allCylinders,
  bookArrival,
  changeCylinder,
  customers,
  lock,
  type CylinderData,
  type CylinderRow,
} from '#db'
import { cylinderFields, cylinderFrom } from '~/cylinders/fields'
import { cylinderProblems } from '~/cylinders/problems.server'
import { refuse, type Typed } from '~/base/form/read.server'
import { FILE_UNITS, type ImportContext, type Sheet } from './sheet.server'

const COLUMNS = [
  ['label', 'As it is written on it', 'Gull 7'],
  ['kind', 'recovery, virgin, one-way or station', 'recovery'],
  ['refrigerant', 'Code, or empty', 'R-410A'],
  ['condition', 'clean, used, doubtful or mixed', 'clean'],
  ['tare', 'Stamped TW, with its unit', '11.9 kg'],
  ['waterCapacity', 'Stamped WC, with its unit', '21.6 kg'],
  ['servicePressure', 'With its unit', '27.6 bar'],
  ['fillingRatio', 'Where one is stamped', ''],
  ['ratioGas', 'The gas it is stamped for', ''],
  ['workingFillPct', 'Station tanks only', ''],
  ['testedOn', 'Day or month of the last test', '2025-03-01'],
  ['testYears', 'Years that a test holds', '10'],
  ['flammableOk', 'yes or no', 'no'],
  ['owner', 'Customer whose gas it holds; empty: the shop', ''],
  ['keepsAt', 'Where it is kept', 'Rack A'],
  ['contents', 'New ones: what is in it, with its unit', '3.2 kg'],
] as const
const MEASURED: string[] = ['tare', 'waterCapacity', 'servicePressure', 'contents']

interface Read extends CylinderData {
  ownerName: string
  contentsMg: number
}

const yes = (text: string) => /^(yes|y|1|true|on)$/i.test(text)

function fields(data: CylinderData, owner: string): Typed {
  const { ownerCustomerId: _id, flammableOk, ...rest } = cylinderFields(data, FILE_UNITS)
  return { ...rest, flammableOk: flammableOk ? 'yes' : 'no', owner }
}

type ByName = Map<string, { customerId: string; name: string }>
const byName = new WeakMap<object, Promise<ByName>>()

/** The customers of a shop by name, once for a file. */
function customersOf({ tx }: ImportContext): Promise<ByName> {
  const known = byName.get(tx)
  if (known) return known
  const found = customers(tx).then((all): ByName => new Map(all.map((c) => [c.name.toLowerCase(), c])))
  byName.set(tx, found)
  return found
}

/** The rack as a file. What is in a cylinder that is known already is never changed by one. */
export const cylinders: Sheet<Read, CylinderRow> = {
  title: 'Cylinders',
  lock: (tx, cylinderIds) => lock(tx, { cylinderIds }),
  columns: COLUMNS.map(([name, help, example]) => ({
    name,
    help,
    example,
    measured: MEASURED.includes(name),
  })),
  nameOf: ({ label = '' }) => label,
  keyOf: ({ label = '' }) => label.toLowerCase(),
  known: async (tx) =>
    (await allCylinders(tx)).map((row) => ({
      id: row.cylinderId,
      row,
      fields: fields(row, row.owner ?? ''),
    })),
  async read(typed, context) {
    const { owner = '', flammableOk = '', ...rest } = typed
    const customer = owner === '' ? undefined : (await customersOf(context)).get(owner.toLowerCase())
    if (owner !== '' && !customer)
      return {
        refused: refuse(typed, { owner: `There is no customer “${owner}”: bring in the customers first.` }),
      }
    const read = cylinderFrom(
      {
        ...rest,
        flammableOk: yes(flammableOk) ? 'on' : '',
        stampChecked: 'on',
        contentsChecked: 'on',
        ownerCustomerId: customer?.customerId ?? '',
      },
      FILE_UNITS,
      context.today,
      0,
    )
    if (read.refused) return { refused: read.refused }
    return { data: { ...read.data, ownerName: customer?.name ?? '', contentsMg: read.contentsMg } }
  },
  fields: (data) => fields(data, data.ownerName),
  problems: (before, after, { tx }) => cylinderProblems(tx, before, after),
  async add(id, data, _typed, { tx, now, userId }) {
    await addCylinder(tx, id, data, now)
    if (data.contentsMg > 0)
      await bookArrival(tx, {
        kind: 'opening',
        voucherId: randomUUID(),
        cylinderId: id,
        massMg: data.contentsMg,
        at: now,
        now,
        userId,
        text: 'From a file',
      })
  },
  async change(id, before, data, { tx }) {
    const [was, is] = [cylinderFields(before, FILE_UNITS), cylinderFields(data, FILE_UNITS)]
    const exact = <K extends 'tareMg' | 'waterCapacityMg' | 'servicePressurePa'>(field: string, name: K) =>
      was[field] === is[field] ? before[name] : data[name]
    await changeCylinder(tx, id, {
      ...data,
      tareMg: exact('tare', 'tareMg'),
      waterCapacityMg: exact('waterCapacity', 'waterCapacityMg'),
      servicePressurePa: exact('servicePressure', 'servicePressurePa'),
    })
  },
}
