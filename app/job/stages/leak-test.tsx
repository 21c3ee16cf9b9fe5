import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import type { LeakMethod } from '#core/tape'
import { draft } from '~/tape/draft'
import { clockTime } from '~/base/ui/time'
import { LEAK_METHOD_WORDS } from '~/words/en'
import { useJob } from '../field/job-context'
import { KnownLeak } from '../circuit/tight/known-leak'
import { PressureHold } from '../circuit/tight/pressure-hold'
import { SearchRound } from '../circuit/tight/search-round'
import { SlowLeak } from '../circuit/tight/slow-leak'
import { useWordsTyped } from '../field/use-figure'

/** Each search with its method and what it found; searches repeat. */
export function LeakTest() {
  const { state, note, closed, data } = useJob()
  const [method, setMethod] = useState<LeakMethod>('nitrogen')
  const [text, setText] = useWordsTyped('leak words')
  const found = (leak: boolean) => {
    note([draft('leak-checked', { method, found: leak, text: text.trim() })])
    setText('')
  }
  return (
    <>
      <KnownLeak />
      <SlowLeak />
      {state.leakChecks.length > 0 && (
        <ul className="mb-0">
          {state.leakChecks.map((check, i) => (
            <li key={i}>
              {clockTime(check.at, data.shop.timeZone)} {LEAK_METHOD_WORDS[check.method]}:{' '}
              <strong>{check.falseAlarm ? 'false alarm' : check.found ? 'leak found' : 'none found'}</strong>{' '}
              {check.text}
            </li>
          ))}
        </ul>
      )}
      {!closed && (
        <>
          <div className="form-grid">
            <Form.Group className="field">
              <Form.Label htmlFor="leak-method">Method</Form.Label>
              <Form.Select
                id="leak-method"
                value={method}
                onChange={(event) => setMethod(event.target.value as LeakMethod)}
              >
                {Object.entries(LEAK_METHOD_WORDS).map(([code, words]) => (
                  <option key={code} value={code}>
                    {words}
                  </option>
                ))}
              </Form.Select>
            </Form.Group>
            <Form.Group className="field">
              <Form.Label htmlFor="leak-text">Where, at what pressure, how long</Form.Label>
              <Form.Control
                id="leak-text"
                value={text}
                maxLength={1000}
                onChange={(event) => setText(event.target.value)}
              />
            </Form.Group>
          </div>
          <div className="row-of">
            <Button className="btn-big" onClick={() => found(false)}>
              None found
            </Button>
            <Button className="btn-big" variant="outline-primary" onClick={() => found(true)}>
              Leak found
            </Button>
          </div>
        </>
      )}
      <SearchRound />
      <PressureHold />
    </>
  )
}
