import { Button } from 'react-bootstrap'
import { Form, useNavigation } from 'react-router'
import type { Shop } from '#db'
import { Field } from '~/base/ui/field'
import { fieldsOf, type Result, shopFields } from './result'

interface ShopSettingsProps {
  shop: Shop
  timeZones: string[]
  result: Result | undefined
}

export function ShopSettings({ shop, timeZones, result }: ShopSettingsProps) {
  const busy = useNavigation().state !== 'idle'
  const field = fieldsOf(result, 'shop', { ...shopFields(shop), version: String(shop.version) })
  return (
    <Form method="post">
      <fieldset className="group">
        <legend>The shop</legend>
        <input type="hidden" name="intent" value="shop" />
        <input type="hidden" name="version" value={field('version').value} />
        <div className="form-grid">
          <Field {...field('name')} label="Name" maxLength={200} />
          <Field {...field('heading')} label="Heading of labels and reports" maxLength={500} />
          <Field {...field('timeZone')} label="Time zone" list={timeZones} />
          <Field
            {...field('fillMarginPct')}
            label="Extra fill margin (%)"
            inputMode="numeric"
            help="Taken off every fill limit."
          />
          <Field
            {...field('sampleDays')}
            label="Keep what live instruments say (days)"
            inputMode="numeric"
            help="After that one value in ten seconds is kept. What belongs to a job stays whole."
          />
        </div>
        <div className="form-foot">
          <Button type="submit" disabled={busy}>
            Save the shop
          </Button>
        </div>
      </fieldset>
    </Form>
  )
}
