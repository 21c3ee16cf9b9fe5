import Joi from 'joi'
import { describe, expect, it } from 'vitest'
import { METRIC_UNITS, US_UNITS } from '#core/units'
import { found, idOf, isId } from './ids.server'
import {
  dateField,
  id,
  measured,
  optionalId,
  readForm,
  refrigerantField,
  refuse,
  text,
  ticked,
} from './read.server'
import { asked } from './search'

const us = { units: US_UNITS }
const request = (fields: Record<string, string>) =>
  new Request('http://keg.test/', { method: 'POST', body: new URLSearchParams(fields) })
const read = (schema: Joi.SchemaMap, fields: Record<string, string>) =>
  readForm(request(fields), Joi.object(schema))

describe('readForm', () => {
  it('reads what fits, trimmed, and takes empty for missing', async () => {
    const { value } = await read(
      { label: text('a label', 10), note: text('a note', 10) },
      { label: ' A 1 ', note: '  ' },
    )
    expect(value).toEqual({ label: 'A 1' })
  })
  it('gives back every error at once, each on its field, and all that was typed', async () => {
    const typed = { label: '', tare: 'heavy', extra: 'kept' }
    const { refused } = await read(
      { label: text('a label', 10).required(), tare: measured('weight', 'the tare', us).required() },
      typed,
    )
    expect(refused).toEqual({
      errors: {
        label: 'Enter a label.',
        tare: expect.stringContaining('"heavy" is not a weight') as string,
      },
      typed,
    })
  })
  it('says how long is too long', async () => {
    const { refused } = await read({ label: text('a label', 5) }, { label: 'abcdef' })
    expect(refused?.errors.label).toBe('That is longer than 5 characters: shorten it.')
  })
  it('never sends a password back', async () => {
    const typed = { signIn: 'ann', password: 'secret word', newPassword: 'another', oldPassword: 'third' }
    const { refused } = await read({ signIn: Joi.string().valid('bob').messages({ '*': 'no' }) }, typed)
    expect(refused).toEqual({ errors: { signIn: 'no' }, typed: { signIn: 'ann' } })
    expect(refuse(typed, {}).typed).toEqual({ signIn: 'ann' })
  })
  it('drops the one character that the database cannot keep', async () => {
    const { value } = await read({ label: text('a label', 10) }, { label: 'a\0b' })
    expect(value).toEqual({ label: 'ab' })
  })
})

describe('measured', () => {
  const weight = async (typed: string, reading = us) =>
    read({ tare: measured('weight', 'the tare', reading) }, { tare: typed })
  it('reads the notation of the trade in the units of the person', async () => {
    expect((await weight('3 lb 9 oz')).value).toEqual({ tare: 1_615_923 })
    expect((await weight('3.5')).value).toEqual({ tare: 1_587_573 })
    expect((await weight('3.5', { units: METRIC_UNITS })).value).toEqual({ tare: 3_500_000 })
    expect((await weight('')).value).toEqual({})
  })
  it('asks which one is meant', async () => {
    expect((await weight('3-9')).refused?.errors.tare).toBe(
      '"3-9" can be read as 3 lb 9 oz or 3.9 lb or 3.9 kg: write which one you mean.',
    )
  })
  it('repeats what was typed as it was typed', async () => {
    expect((await weight('{{evil}}')).refused?.errors.tare).toContain('"evil" is not a weight')
  })
})

describe('the other fields', () => {
  it('take days that exist', async () => {
    const day = async (typed: string) => read({ on: dateField }, { on: typed })
    expect((await day('2026-02-28')).value).toEqual({ on: '2026-02-28' })
    expect((await day('')).value).toEqual({})
    for (const wrong of ['2026-02-31', '2026-13-01', '28.02.2026', '9999-12-31', '0001-01-01', 'soon'])
      expect((await day(wrong)).refused?.errors.on, wrong).toContain('year-month-day')
  })
  it('take refrigerants of the list, ids, and ticks', async () => {
    expect((await read({ gas: refrigerantField }, { gas: 'R-410A' })).value).toEqual({ gas: 'R-410A' })
    expect((await read({ gas: refrigerantField }, { gas: 'R-1' })).refused?.errors.gas).toContain(
      'from the list',
    )
    const some = '6f1a51f0-7d2c-4c1e-9d5e-3b0c8e3f5a11'
    expect((await read({ id }, { id: some })).value).toEqual({ id: some })
    expect((await read({ id }, {})).refused?.errors.id).toContain('reload')
    expect((await read({ id: optionalId }, { id: '' })).value).toEqual({})
    expect((await read({ on: ticked }, { on: 'on' })).value).toEqual({ on: true })
    expect((await read({ on: ticked }, {})).value).toEqual({ on: false })
  })
})

describe('addresses', () => {
  it('have ids or lead nowhere', () => {
    expect(isId('6f1a51f0-7d2c-4c1e-9d5e-3b0c8e3f5a11')).toBe(true)
    for (const wrong of ['', undefined, 'x', "6f1a51f0-7d2c-4c1e-9d5e-3b0c8e3f5a11'--"]) {
      expect(isId(wrong)).toBe(false)
      expect(() => idOf(wrong)).toThrow(expect.objectContaining({ status: 404 }) as Error)
    }
    expect(found(1, 'job')).toBe(1)
    expect(() => found(undefined, 'job')).toThrow(expect.objectContaining({ status: 404 }) as Error)
  })
  it('ask for short and searchable things', () => {
    const search = new URLSearchParams({ label: `  a\0b${'x'.repeat(200)}` })
    expect(asked(search, 'label', 5)).toBe('abxxx')
    expect(asked(search, 'other')).toBe('')
  })
})
