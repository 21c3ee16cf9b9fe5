import { describe, expect, it } from 'vitest'
import { METRIC_UNITS } from '#core/units'
import { choiceOf } from './choice'
import { systemFrom } from './fields'

const fields = {
  name: 'Retarder',
  customer: 'Old Mole Bakery',
  site: 'Mole street',
  altitude: '',
  trade: 'stationary',
  refrigerant: 'R-452A',
  plate: '4.2 kg',
  metering: 'valve',
}
const line = { kind: 'liquid', od: '3/8', length: '12 m', covered: '', guessed: true }
const read = (over: Record<string, string> = {}) =>
  systemFrom({ ...fields, ...over }, { units: METRIC_UNITS })
const errors = async (over: Record<string, string>) => (await read(over)).refused?.errors ?? {}

describe('systemFrom', () => {
  it('reads plate, lines and accessories', async () => {
    const { value } = await read({
      altitude: '640',
      subcooling: '5.5',
      lines: JSON.stringify([
        line,
        { ...line, kind: 'suction', od: '3/4', length: '40 ft', covered: '5', guessed: false },
      ]),
      accessories: JSON.stringify([{ name: ' Drier ', mass: '340 g' }]),
    })
    expect(value).toMatchObject({
      customer: 'Old Mole Bakery',
      altitudeM: 640,
      data: {
        plateMg: 4_200_000,
        panelTotalMg: null,
        subcoolingTargetK: 5.5,
        lines: [
          { kind: 'liquid', od: '3/8', lengthM: 12, coveredM: 0, guessed: true },
          { kind: 'suction', od: '3/4', lengthM: 12.192, coveredM: 5, guessed: false },
        ],
        accessories: [{ name: 'Drier', massMg: 340_000 }],
      },
    })
  })
  it('takes a system without a plate', async () => {
    const { value } = await read({ plate: '', refrigerant: '' })
    expect(value?.data).toMatchObject({ plateMg: null, refrigerant: null, lines: [], accessories: [] })
  })
  it('refuses on the line where it is wrong', async () => {
    expect(await errors({ lines: JSON.stringify([line, { ...line, length: '' }]) })).toEqual({
      'line-1': expect.stringContaining('how long this line is') as string,
    })
    expect(await errors({ lines: JSON.stringify([{ ...line, covered: 'half' }]) })).toEqual({
      'line-0': expect.stringContaining('what the plate covers') as string,
    })
    expect(await errors({ lines: JSON.stringify([{ ...line, od: '9' }]) })).toEqual({
      'line-0': expect.stringContaining('pipe from the list') as string,
    })
    expect(
      await errors({
        accessories: JSON.stringify([
          { name: '', mass: '1 g' },
          { name: 'x', mass: '' },
        ]),
      }),
    ).toEqual({
      'accessory-0': expect.stringContaining('what it is') as string,
      'accessory-1': expect.stringContaining('how much gas') as string,
    })
  })
  it('refuses a charge of nothing and heights beyond the mountains', async () => {
    expect((await errors({ plate: '0 g' })).plate).toContain('more than nothing')
    expect((await errors({ altitude: '9000' })).altitude).toContain('no height that people work at')
    expect((await errors({ subcooling: '99' })).subcooling).toContain('between 0 and 30 K')
  })
  it('takes nothing from a list that the page did not write', async () => {
    expect((await read({ lines: 'not json', accessories: '{"a":1}' })).value?.data).toMatchObject({
      lines: [],
      accessories: [],
    })
  })
})

it('choiceOf names a system with whose it is and where it stands', () => {
  const choice = choiceOf({
    systemId: 's',
    name: 'Retarder',
    customer: 'Bakery',
    site: 'Mole street',
    refrigerant: null,
  })
  expect(choice).toEqual({ systemId: 's', name: 'Retarder · Bakery, Mole street', refrigerant: null })
})
