import { addSystem, changeSystem, lock, type SystemRow, systems as listSystems } from '#db'
import { refuse, type Typed } from '~/base/form/read.server'
import {
  type ReadSystem,
  systemFields,
  systemFrom,
  type TypedAccessory,
  type TypedLine,
} from '~/systems/fields'
import { placeOf } from '~/systems/place.server'
import { FILE_UNITS, type Sheet } from './sheet.server'

const COLUMNS = [
  ['customer', 'Name', 'Old Mole Bakery'],
  ['site', 'Where', 'Mole street'],
  ['name', 'What it is called there', 'Retarder'],
  ['altitude', 'Above the sea, with its unit', '4 m'],
  ['trade', 'stationary or vehicle', 'stationary'],
  ['refrigerant', 'Code, or empty', 'R-452A'],
  ['plate', 'Charge on the plate, with its unit', '4.6 kg'],
  ['plateText', 'What else the plate says', ''],
  ['panelTotal', 'Total written in the panel, with its unit', ''],
  ['lines', 'Line sets: liquid 3/8 12 m covered 5 m; suction 3/4 12 m', 'liquid 3/8 12 m covered 5 m'],
  ['accessories', 'What holds gas: Drier 340 g; Receiver 1.2 kg', 'Drier 340 g'],
  ['oilType', 'Type and grade', 'POE 32'],
  ['metering', 'valve, fixed or unknown', 'valve'],
  ['subcooling', 'On the plate, with its unit', ''],
  ['maxTestPressure', 'With its unit', '28 bar'],
  ['registration', 'Vehicles', ''],
  ['vin', 'Vehicles, 17 characters', ''],
  ['compressor', 'Vehicles', ''],
] as const
const MEASURED: string[] = ['altitude', 'plate', 'panelTotal', 'subcooling', 'maxTestPressure']

const parts = (text: string) =>
  text
    .split(';')
    .map((part) => part.trim())
    .filter(Boolean)

/** `liquid 3/8 12 m covered 5 m guessed` */
function lineFrom(text: string): TypedLine | undefined {
  const found = /^(liquid|suction)\s+(\S+)\s+(.+?)(?:\s+covered\s+(.+?))?(\s+guessed)?$/i.exec(text)
  if (!found) return undefined
  const [, kind, od, length, covered = '', guessed] = found
  return { kind: kind!.toLowerCase(), od: od!, length: length!, covered, guessed: guessed !== undefined }
}

/** `Drier 340 g` */
function accessoryFrom(text: string): TypedAccessory | undefined {
  const found = /^(.*\S)\s+([\d.,]+\s*[a-z]+)$/i.exec(text)
  return found ? { name: found[1]!, mass: found[2]! } : undefined
}

/** A system's form as a file has it: lists in words. */
function fields(data: Parameters<typeof systemFields>[0]): Typed {
  const { lines, accessories, ...rest } = systemFields(data, FILE_UNITS)
  return {
    ...rest,
    lines: (JSON.parse(lines!) as TypedLine[])
      .map(
        (l) =>
          `${l.kind} ${l.od} ${l.length}${l.covered && !/^0\b/.test(l.covered) ? ` covered ${l.covered}` : ''}${l.guessed ? ' guessed' : ''}`,
      )
      .join('; '),
    accessories: (JSON.parse(accessories!) as TypedAccessory[]).map((a) => `${a.name} ${a.mass}`).join('; '),
  }
}

/** Systems with their plates; customer and site are made where they are not there yet. */
export const systems: Sheet<ReadSystem, SystemRow> = {
  title: 'Systems',
  lock: (tx, systemIds) => lock(tx, { systemIds }),
  columns: COLUMNS.map(([name, help, example]) => ({
    name,
    help,
    example,
    measured: MEASURED.includes(name),
  })),
  nameOf: ({ name = '' }) => name,
  keyOf: ({ customer = '', site = '', name = '' }) =>
    customer && site && name ? `${customer}\n${site}\n${name}`.toLowerCase() : '',
  known: async (tx) =>
    (await listSystems(tx, '', 20_000)).map((row) => ({ id: row.systemId, row, fields: fields(row) })),
  read(typed) {
    const lines = parts(typed.lines ?? '').map(lineFrom)
    const accessories = parts(typed.accessories ?? '').map(accessoryFrom)
    if (lines.includes(undefined))
      return Promise.resolve({
        refused: refuse(typed, {
          lines: 'Write each line set like “liquid 3/8 12 m covered 5 m”, with ; between them.',
        }),
      })
    if (accessories.includes(undefined))
      return Promise.resolve({
        refused: refuse(typed, { accessories: 'Write each like “Drier 340 g”, with ; between them.' }),
      })
    const read = systemFrom(
      { ...typed, lines: JSON.stringify(lines), accessories: JSON.stringify(accessories) },
      FILE_UNITS,
    )
    return Promise.resolve(read.refused ? { refused: read.refused } : { data: read.value })
  },
  fields: ({ data, customer, site, altitudeM }) =>
    fields({ ...data, customer, site, altitudeM: altitudeM ?? 0 }),
  async add(id, read, _typed, { tx, now }) {
    await addSystem(tx, id, { ...read.data, siteId: await placeOf(tx, read, now) }, now)
  },
  async change(id, before, read, { tx, now }) {
    const [was, is] = [fields(before), fields({ ...read.data, ...read })]
    const exact = <K extends 'plateMg' | 'panelTotalMg' | 'maxTestPressurePa'>(field: string, name: K) =>
      was[field] === is[field] ? before[name] : read.data[name]
    await changeSystem(tx, id, {
      ...read.data,
      plateMg: exact('plate', 'plateMg'),
      panelTotalMg: exact('panelTotal', 'panelTotalMg'),
      maxTestPressurePa: exact('maxTestPressure', 'maxTestPressurePa'),
      siteId: await placeOf(tx, read, now),
    })
  },
}
