import {
  appendFileSync,
  closeSync,
  existsSync,
  fstatSync,
  mkdirSync,
  openSync,
  readFileSync,
  readSync,
  renameSync,
  truncateSync,
  writeFileSync,
} from 'node:fs'
import { join } from 'node:path'

/** A sample as it is sent. */
export interface SpooledSample {
  channel: string
  seq: number
  at: number
  value: number
}

/** At most so much is read at once, bytes: some 1,000 samples. */
const CHUNK = 120_000
/** All of it sent and this large: begun anew. */
const COMPACT = 1_000_000
/** As much as one device may keep, bytes: a day and a half of six channels once a second. */
const MOST_BYTES = 50_000_000
/** What stays when it is full. */
const KEPT_SHARE = 0.75

export interface Spool {
  /** Keeps samples until they are sent. @returns how many of the oldest had to go for them, where the disk is not for more */
  put(samples: readonly SpooledSample[]): number
  /** The next samples to be sent, in order; sending them again before `sent` gives the same. */
  next(most: number): { samples: SpooledSample[]; end: number }
  /** Everything up to there has arrived. */
  sent(end: number): void
  waiting(): number
  /** The highest sequence of each channel that was ever kept. */
  lastSeq(): Map<string, number>
}

/**
 * What a device has said and the server has not taken yet, on disk: one line a sample, and how far of it has arrived. A
 * process that ends in the middle of a line leaves half of one behind: it is cut off.
 */
export function spoolIn(folder: string, name: string, mostBytes = MOST_BYTES): Spool {
  mkdirSync(folder, { recursive: true })
  const file = join(folder, `${name}.jsonl`)
  const mark = join(folder, `${name}.sent`)
  const seqFile = join(folder, `${name}.seq`)
  if (!existsSync(file)) writeFileSync(file, '')
  cutHalfLine(file)
  let offset = existsSync(mark) ? Number(readFileSync(mark, 'utf8')) || 0 : 0
  let size = sizeOf(file)
  // What has been cut off at the front since: places that were given out before stay right.
  let cut = 0
  // The mark of a file that was begun anew since.
  if (offset > size) offset = 0
  const seqs = new Map<string, number>(
    existsSync(seqFile) ? (JSON.parse(readFileSync(seqFile, 'utf8')) as [string, number][]) : [],
  )
  for (const { channel, seq } of linesFrom(file, 0, Infinity).samples)
    seqs.set(channel, Math.max(seqs.get(channel) ?? -1, seq))

  return {
    put(samples) {
      if (samples.length === 0) return 0
      const text = samples.map((each) => `${JSON.stringify(each)}\n`).join('')
      appendFileSync(file, text)
      size += Buffer.byteLength(text)
      for (const { channel, seq } of samples) seqs.set(channel, seq)
      return size > mostBytes ? makeRoom() : 0
    },
    next(most) {
      const { samples, end } = linesFrom(file, offset, most)
      return { samples, end: cut + end }
    },
    sent(end) {
      offset = Math.max(offset, end - cut)
      if (offset >= size && size > COMPACT) {
        // First what is known of the sequences, then the file: either order of what remains is right.
        replace(seqFile, JSON.stringify([...seqs]))
        replace(mark, '0')
        truncateSync(file, 0)
        cut += size
        offset = size = 0
      } else replace(mark, String(offset))
    },
    waiting: () => size - offset,
    lastSeq: () => seqs,
  }

  /** What was sent goes first, then the oldest that was not. @returns how many samples were given up */
  function makeRoom(): number {
    const text = readFileSync(file)
    const from = Math.max(offset, text.length - Math.floor(mostBytes * KEPT_SHARE))
    const start = from === offset ? offset : text.indexOf(10, from - 1) + 1
    let given = 0
    for (let at = text.indexOf(10, offset); at >= 0 && at < start; at = text.indexOf(10, at + 1)) given++
    // A process that ends between the two sends something twice, and loses nothing.
    replace(seqFile, JSON.stringify([...seqs]))
    replace(mark, '0')
    replace(file, text.subarray(start))
    offset = 0
    cut += start
    size = text.length - start
    return given
  }
}

function linesFrom(file: string, offset: number, most: number): { samples: SpooledSample[]; end: number } {
  const fd = openSync(file, 'r')
  try {
    const samples: SpooledSample[] = []
    let end = offset
    for (;;) {
      const buffer = Buffer.alloc(CHUNK)
      const read = readSync(fd, buffer, 0, CHUNK, end)
      const text = buffer.subarray(0, read)
      let start = 0
      for (
        let newline = text.indexOf(10);
        newline >= 0 && samples.length < most;
        newline = text.indexOf(10, start)
      ) {
        samples.push(JSON.parse(text.subarray(start, newline).toString('utf8')) as SpooledSample)
        start = newline + 1
      }
      end += start
      if (start === 0 || samples.length >= most || read < CHUNK) return { samples, end }
    }
  } finally {
    closeSync(fd)
  }
}

function cutHalfLine(file: string): void {
  const text = readFileSync(file)
  const last = text.lastIndexOf(10)
  if (last + 1 < text.length) truncateSync(file, last + 1)
}

function sizeOf(file: string): number {
  const fd = openSync(file, 'r')
  try {
    return fstatSync(fd).size
  } finally {
    closeSync(fd)
  }
}

/** All of it or nothing, whenever the process ends. */
export function replace(file: string, text: string | Buffer): void {
  writeFileSync(`${file}.new`, text)
  renameSync(`${file}.new`, file)
}

/** What was kept whole; undefined: nothing yet, or what is not from us, and it begins anew. */
export function readWhole<T>(file: string): T | undefined {
  if (!existsSync(file)) return undefined
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as T
  } catch (error) {
    if (error instanceof SyntaxError) return undefined
    throw error
  }
}
