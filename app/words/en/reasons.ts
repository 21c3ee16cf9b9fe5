import type { DecantQuestion, DecantRefusal, ReweighQuestion } from '#core/cylinders'
import type {
  AgainstCode,
  FlagCode,
  AirSource,
  NoticeCode,
  RefusalCode,
  WeighingDoubt,
  WeightQuestion,
} from '#core/tape'

/** Why a cylinder may not be used, or what to look at first: one sentence each, with what to do. */
export const REASON_WORDS: Record<RefusalCode, string> = {
  'foul-gas':
    'The identifier says that it is not the named gas alone: take an empty cylinder, or one marked mixed.',
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
  'ratio-of-another-gas':
    'Its filling ratio is stamped for another gas: enter the one for this refrigerant, if it has one.',
  'owner-onto-shops':
    "It holds the shop's own gas: a customer's gas on top of it cannot be told apart afterwards.",
  'in-use': 'A transfer is running on this cylinder already: end it first, or take another cylinder.',
  'too-small': 'Not enough room for all of it: take a larger or emptier one, or plan two.',
  'room-reserved': 'Its room is reserved by another job: take another, or release it there.',
  full: 'It is full: take another.',
  'amount-unknown': 'Nobody knows how much will come: watch the limit and have a second cylinder ready.',
  'not-enough': 'It holds less than is wanted: have a second one ready.',
  empty: 'The books have nothing in it: take another, or re-weigh it.',
  'used-gas': 'It holds recovered gas: only for its owner, and only if it is clean.',
  'scale-and-books-differ':
    'Scale and books did not agree when it was weighed last: its room is reckoned from the fuller of the two. Re-weigh it, or say why.',
  'kit-not-here': 'It is out for repair or retired: take another one.',
  'not-rated-flammable':
    'This machine is not rated for flammable refrigerants: its sparks can light them. Take one that is.',
  'holds-another-gas':
    'The machine still holds another refrigerant: purge it into a cylinder of that gas first, and note it on its page under Kit.',
  'not-there': 'Keg has no such cylinder, system or kit in this shop: reload the page and choose again.',
  'not-allowed':
    'You may only read here: ask a manager to let you write, then send it again, or let somebody else note it.',
  'no-job': 'There is no such job in this shop: note it again in the right one, or tell a manager.',
  'too-large': 'It is more than Keg takes at once: shorten it, then send it again.',
  malformed: 'Keg could not read this entry: change it, or throw it away and note it again.',
  unreadable:
    'What this device had kept is damaged: this is all that is left of it. Note it again where it belongs.',
}

export const FLAG_WORDS: Record<FlagCode, string> = {
  'weight-without-start': 'A weight was noted that belongs to no transfer: correct it or strike it.',
  'weight-after-end': 'A weight was noted after its transfer had ended; it does not count.',
  'hold-without-start': 'A hold was ended that had not been started.',
  'noted-after-close': 'Something was noted after the job was closed.',
  'oil-wrong-for-drive': 'An oil was put in that does not belong into this compressor.',
  'two-at-once':
    'Two transfers ran on one cylinder at once: their weights belong to both. Look at each of them and correct it.',
  'emptied-not-borne-out':
    'It was said to be emptied, but the low gauge stood above the level after the last pull.',
  'gas-unaccounted':
    'A deep vacuum was noted while gas should still have been in there: say what became of it.',
  'against-the-books':
    'Something was done without signal that stands against the rules, or against what others did meanwhile: look at it.',
  backflow: 'Gas flowed back into a cylinder while charging: it is no longer virgin.',
  'correction-without-entry': 'A correction arrived for an entry that is not on the tape.',
}

const WEIGH_IT =
  'Weigh it now. Over its limit: let gas over into another cylinder of the same gas before it warms, and note both.'
const APART = 'Do not use what is in it: mark it, keep it apart, and have it tested or sent to the reclaimer.'
const LOOK_AT_THE_STAMP = 'Read the stamp, and enter it under Cylinders. Fill no more into it until then.'

/** What was done without signal, and what is to be done about it now. */
export const AGAINST_WORDS: Record<AgainstCode, string> = {
  'used-meanwhile':
    'Somebody else moved gas in or out of this cylinder while this job had it. One of you had another one on the scale: compare the labels, weigh both, and put the wrong job right.',
  'in-use':
    'Another job has a transfer running on this cylinder. One of you has another one on the scale: compare the labels now.',
  'foul-gas': `The identifier had said that it is not the named gas alone. ${APART}`,
  retired:
    'This cylinder was retired meanwhile. Look whether it may be filled at all; take the gas out of it if not.',
  'one-way':
    'A one-way cylinder is never refilled. Take the gas out of it into a recovery cylinder, and scrap it.',
  'virgin-only': `This cylinder is for virgin gas only. ${APART}`,
  mixed: 'It was marked as mixed meanwhile: what went in goes to the reclaimer with it.',
  doubtful: 'It was marked as doubtful meanwhile: what went in is doubtful too.',
  'doubtful-gas': `The gas in it was marked as doubtful meanwhile. What it went into may hold it: look at the pressures and temperatures there.`,
  'other-refrigerant': `It holds another refrigerant by the books: somebody filled it meanwhile, or it is another cylinder. Compare the label. ${APART}`,
  'other-owner': "It holds another customer's gas by the books. Say whose is whose, and tell both.",
  'owner-onto-shops':
    "It held the shop's own gas: a customer's gas on top of it cannot be told apart any more.",
  'test-overdue': 'Its pressure test had run out. Take the gas out of it, and send it for its test.',
  'test-unknown': `Its test date is not known. ${LOOK_AT_THE_STAMP}`,
  'test-due-soon': 'Its pressure test runs out within 30 days.',
  'not-for-flammable':
    'It is not fit for flammable refrigerants. Keep it away from sparks, and take the gas out of it.',
  'pressure-unknown': `Its service pressure is not known. ${LOOK_AT_THE_STAMP}`,
  'pressure-too-low':
    'Its service pressure is too low for this refrigerant at 55 °C. Keep it cool, and take the gas out of it.',
  'capacity-unknown': `Its water capacity is not known. ${LOOK_AT_THE_STAMP}`,
  'no-stamped-ratio': `This refrigerant is filled by a stamped filling ratio only. ${LOOK_AT_THE_STAMP}`,
  'ratio-of-another-gas': `Its filling ratio is stamped for another gas. ${LOOK_AT_THE_STAMP}`,
  'too-small': `Somebody filled it meanwhile: by the books it had not enough room. ${WEIGH_IT}`,
  'room-reserved': `Another job counts on its room. ${WEIGH_IT} Then choose another one there.`,
  full: `By the books it was full. ${WEIGH_IT}`,
  'amount-unknown': 'Nobody knew how much would come.',
  'not-enough': 'By the books it held less than was wanted. Weigh it, and compare the label.',
  empty: 'The books had nothing in it. Weigh it, and compare the label.',
  'used-gas':
    "It holds recovered gas: only for its owner, and only if it is clean. Say so to the system's owner.",
  'scale-and-books-differ': 'Scale and books did not agree on it. Weigh it, and say why.',
  'kit-not-here': 'The kit was out for repair or retired meanwhile. Check what it told before you trust it.',
  'not-rated-flammable':
    'The machine is not rated for flammable refrigerants. Stop using it with this gas, and air the place.',
  'holds-another-gas': `The machine held another refrigerant: some of it went along. ${APART}`,
  'not-there': 'Keg has no such cylinder, system or kit in this shop.',
  'not-allowed': 'You may only read here.',
  'no-job': 'There is no such job in this shop.',
  'too-large': 'It is more than Keg takes at once.',
  malformed: 'Keg could not read this entry.',
  unreadable: 'What this device had kept is damaged.',
}

/** What a weight may be instead of what it says. */
export const DOUBT_WORDS: Record<WeighingDoubt, string> = {
  'wrong-way': 'The weight goes the wrong way: a slip, a nudge, a hose that pulls, or gas flowing back?',
  jump: 'That is more than the rate so far explains: a slip, something leaning on the scale, or really so much?',
  'zeroed-again': 'The scale is back at zero: was it zeroed again?',
  'minus-missing':
    'A zeroed scale goes below zero while charging: is the minus missing, or did gas flow back into the cylinder?',
  'negative-in-all': 'That is less than at the start, by a lot: is it the right cylinder, and gross or net?',
}

/** What is asked about a weight before it is noted: short enough to stand beside its answers on a phone. */
export const QUESTION_WORDS: Record<WeightQuestion, string> = {
  'wrong-way': 'The wrong way: a hose, or backflow?',
  jump: 'A jump: really so much?',
  'zeroed-again': 'Zeroed again?',
  'minus-missing': 'Is the minus missing?',
  'negative-in-all': 'Below the start: gross or net?',
  'beyond-limit': 'Past the limit: really so much?',
  'below-tare': 'Below the tare: really so little?',
  'off-the-books': 'Not what tare and books say',
}

/** What is asked before the books follow a scale. */
export const REWEIGH_WORDS: Record<ReweighQuestion, string> = {
  'beyond-limit': 'That is past its limit. Look at the scale again: really so much?',
  'below-tare':
    'That is less than the empty cylinder weighs. Look at the scale again, and at the stamped tare.',
  'far-from-books': 'That is far from what tare and books say. Look at the digits, the point and the unit.',
}

/** What is noticed in readings that are there already; the numbers stand beside it. */
export const NOTICE_WORDS: Record<NoticeCode, string> = {
  'low-above-level': 'After the last pull the low side stands above the level: it is not empty yet.',
  rebounds: 'The low side came back since the last pull: another one brings something.',
  'rebounds-early': 'The low side is coming back: wait at least 5 minutes, then read again.',
  'air-through-leak':
    'A leak is known and the low side is below atmosphere: air is drawn in, and spoils what comes out. Stop at 0.',
  'cylinder-above':
    'The cylinder stands above what this gas has at its temperature: air, another gas, or sun on it. Shade it, wait, measure again.',
  'cylinder-below':
    'The cylinder stands below what this gas has at its temperature: another gas, or no liquid in it.',
}

/** Where air in a cylinder likely comes from. */
export const AIR_SOURCE_WORDS: Record<AirSource, string> = {
  'not-purged': 'from hoses that were not purged',
  'drawn-by-leak': 'drawn in through the leak, below zero',
  'was-in-it': 'it may have been in there before',
}

/** The same in a word or two, beside the weight. */
export const DOUBT_TAGS: Record<WeighingDoubt, string> = {
  'wrong-way': 'the wrong way',
  jump: 'a jump',
  'zeroed-again': 'zeroed again?',
  'minus-missing': 'minus missing?',
  'negative-in-all': 'below the start',
}

/** Why gas may not go from one cylinder into another. */
/** What is asked before it is booked. */
export const DECANT_QUESTIONS: Record<DecantQuestion, string> = {
  'owner-onto-shops':
    'It is a customer’s gas, and the cylinder that takes it is the shop’s: afterwards it goes back to nobody. Was that agreed?',
  'before-off-the-books':
    'What the scale showed before is far from what tare and books say. Look at the digits, the point and the unit. If it did show that, weigh the cylinder again on its page first.',
  'more-than-it-had':
    'That is more than the books had in the one that gives. Look at the digits, the point and the unit.',
}

/** The button that says that it is so. */
export const DECANT_ANSWERS: Record<DecantQuestion, string> = {
  'owner-onto-shops': 'It is the shop’s now',
  'before-off-the-books': 'The scale did show that',
  'more-than-it-had': 'So much did come out',
}

export const DECANT_WORDS: Record<DecantRefusal, string> = {
  'same-cylinder': 'A cylinder cannot give to itself: choose another one.',
  'giver-without-gas': 'Nobody has said what is in the giver: enter its gas first.',
  'worse-onto-better': 'Worse gas onto better spoils both: take an empty cylinder.',
  'past-the-limit': 'With that it would be past its limit: take some out again at once, and weigh both.',
}
