import Joi from 'joi'
import { changeAltitude, changeSite, type Site, sites, siteNamed, customerNamed } from '#db'
import { randomUUID } from 'node:crypto'
import { checkForm, measured, text, type Typed } from '~/base/form/read.server'
import { typed as asTyped } from '~/base/ui/measure'
import { FILE_UNITS, type Sheet } from './sheet.server'

interface Read {
  customer: string
  site: string
  address: string
  altitudeM: number
}

const schema = Joi.object<{ customer: string; site: string; address?: string; altitude?: number }>({
  customer: text('the customer', 200).required(),
  site: text('the site', 200).required(),
  address: text('the address', 500),
  altitude: measured('height', 'how high it lies', FILE_UNITS),
})

const fields = ({ customer, site, address, altitudeM }: Read): Typed => ({
  customer,
  site,
  address,
  altitude: asTyped('height', altitudeM, FILE_UNITS),
})

/** Customers with their sites, one site a line. */
export const customers: Sheet<Read, Site> = {
  title: 'Customers and sites',
  columns: [
    { name: 'customer', help: 'Name', example: 'Old Mole Bakery' },
    { name: 'site', help: 'Where', example: 'Mole street' },
    { name: 'address', help: 'May stay empty', example: 'Mole street 4' },
    { name: 'altitude', help: 'Above the sea, with its unit; empty: 0 m', example: '4 m', measured: true },
  ],
  nameOf: ({ customer = '', site = '' }) => [customer, site].filter(Boolean).join(', '),
  keyOf: ({ customer = '', site = '' }) => (customer && site ? `${customer}\n${site}`.toLowerCase() : ''),
  known: async (tx) =>
    (await sites(tx, 20_000)).map((row) => ({
      id: row.siteId,
      row,
      fields: fields({ ...row, site: row.name }),
    })),
  read(typed) {
    const form = checkForm(typed, schema)
    if (form.refused) return Promise.resolve({ refused: form.refused })
    const { customer, site, address = '', altitude = 0 } = form.value
    return Promise.resolve({ data: { customer, site, address, altitudeM: altitude } })
  },
  fields,
  problems: (_before, { altitudeM }) =>
    Promise.resolve<Record<string, string>>(
      altitudeM < -450 || altitudeM > 5500 ? { altitude: 'No shop works that high or low: check it.' } : {},
    ),
  async add(id, { customer, site, address, altitudeM }, _typed, { tx, now }) {
    const customerId = await customerNamed(tx, { customerId: randomUUID(), name: customer, at: now })
    await siteNamed(tx, { siteId: id, customerId, name: site, address, altitudeM, at: now })
  },
  async change(id, _before, { site, address, altitudeM }, { tx }) {
    await changeSite(tx, id, { name: site, address })
    await changeAltitude(tx, id, altitudeM)
  },
}
