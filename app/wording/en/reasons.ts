/** Why a cylinder may not be used, or what to look at first: one sentence each, with what to do. */
export const REASON_WORDS: Record<string, string> = {
  retired: 'This cylinder is retired: take another.',
  'one-way': 'A one-way cylinder is never refilled: take a recovery cylinder.',
  'virgin-only': 'This cylinder is for virgin gas only: take a recovery cylinder.',
  mixed: 'It holds mixed gas: it goes to the reclaimer. Take another.',
  doubtful: 'What is in it is doubtful: whatever you add becomes doubtful too.',
  'doubtful-gas': 'The gas in it is doubtful: do not charge with it. Take clean gas.',
  'other-refrigerant': 'It holds another refrigerant: gases are never mixed. Take another cylinder.',
  'other-owner': "It holds another customer's gas: take one of your own, or this customer's.",
  'test-overdue':
    'Its pressure test has run out: it may not be filled. Take another and send this one for its test.',
  'test-unknown': 'Its test date is not known: read the stamp and enter it under Cylinders.',
  'test-due-soon': 'Its pressure test runs out within 30 days.',
  'not-for-flammable': 'It is not fit for flammable refrigerants: take one that is marked for them.',
  'pressure-unknown': 'Its service pressure is not known: read the stamp and enter it under Cylinders.',
  'pressure-too-low': 'Its service pressure is too low for this refrigerant at 55 °C: take a stronger one.',
  'capacity-unknown': 'Its stamped water capacity is not known: read the stamp and enter it under Cylinders.',
  'no-stamped-ratio': 'This refrigerant is filled by a stamped filling ratio only: enter it under Cylinders.',
  'too-small': 'Not enough room for all of it: take a larger or emptier one, or plan two.',
  'room-reserved': 'Its room is reserved by another job: take another, or release it there.',
  full: 'It is full: take another.',
  'amount-unknown': 'Nobody knows how much will come: watch the limit and have a second cylinder ready.',
  'not-enough': 'It holds less than is wanted: have a second one ready.',
  empty: 'The books have nothing in it: take another, or re-weigh it.',
  'used-gas': 'It holds recovered gas: only for its owner, and only if it is clean.',
  'not-there': 'Keg has no such cylinder or system in this shop: reload the page and choose again.',
  'not-allowed':
    'You may only read here: ask a manager to let you write, then send it again, or let somebody else note it.',
  'no-job': 'There is no such job in this shop: note it again in the right one, or tell a manager.',
  'too-large': 'It is more than Keg takes at once: shorten it, then send it again.',
  malformed: 'Keg could not read this entry: change it, or throw it away and note it again.',
  unreadable:
    'What this device had kept is damaged: this is all that is left of it. Note it again where it belongs.',
}

export const FLAG_WORDS: Record<string, string> = {
  'weight-without-start': 'A weight was noted that belongs to no run: correct it or strike it.',
  'weight-after-end': 'A weight was noted after its run had ended.',
  'hold-without-start': 'A hold was ended that had not been started.',
  'noted-after-close': 'Something was noted after the job was closed.',
  'correction-without-entry': 'A correction arrived for an entry that is not on the tape.',
}
