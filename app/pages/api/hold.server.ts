import { strings, WORKING_SCHEMA } from './openapi.server'
import { HOLD_TOOL } from '~/slide-rule/hold/outcome'

const problem = { $ref: '#/components/responses/Problem' }
const answers = { type: 'string', enum: ['yes', 'no', 'open'] }
const readings = {
  type: 'array',
  minItems: 1,
  maxItems: 20_000,
  description: 'From valving the pump off, in order of time.',
  items: {
    type: 'object',
    required: ['t_s'],
    oneOf: [{ required: ['p_micron'] }, { required: ['p_Pa_abs'] }],
    properties: { t_s: { type: 'number' }, p_micron: { type: 'number' }, p_Pa_abs: { type: 'number' } },
  },
}

/** The hold's own path in the document of the interface: its input is a list, which no address holds. */
export const HOLD_PATHS = {
  [`/api/v1/calc/${HOLD_TOOL.name}`]: {
    post: {
      operationId: HOLD_TOOL.name,
      summary: HOLD_TOOL.title,
      description: HOLD_TOOL.question,
      requestBody: {
        required: true,
        content: {
          'application/json': {
            schema: {
              type: 'object',
              required: ['readings'],
              additionalProperties: false,
              properties: {
                readings,
                previous: { ...readings, description: 'The hold before it on the same system.' },
                t_ambient_C: { type: 'number', minimum: -30, maximum: 60 },
                volume_L: {
                  type: 'number',
                  description: 'Inner volume: then the leak is said in Pa L/s too.',
                },
              },
            },
          },
        },
      },
      responses: {
        200: {
          description: 'Pass or fail, and apart from it leak and moisture, with the working.',
          content: { 'application/json': { schema: holdAnswer() } },
        },
        400: problem,
        401: problem,
        422: problem,
        429: problem,
      },
    },
  },
}

function holdAnswer() {
  return {
    type: 'object',
    required: ['tool', 'result', 'working', 'uncertainty', 'source', 'caution'],
    properties: {
      tool: { type: 'string' },
      result: {
        type: 'object',
        required: ['pass', 'leak', 'moisture', 'smallest_leak_micron_per_min', 'verdict'],
        properties: {
          pass: { type: ['boolean', 'null'], description: 'null: too soon, or no hold at all.' },
          leak: answers,
          moisture: answers,
          leak_micron_per_min: { type: 'number' },
          leak_Pa_L_s: { type: 'number' },
          smallest_leak_micron_per_min: { type: ['number', 'null'] },
          known_after_s: { type: 'number' },
          verdict: {
            type: 'object',
            required: ['outcome', 'code', 'reasons'],
            properties: {
              outcome: { type: 'string', enum: ['good', 'caution', 'bad', 'open'] },
              code: { type: 'string' },
              reasons: strings,
            },
          },
        },
      },
      working: WORKING_SCHEMA,
      uncertainty: strings,
      source: strings,
      caution: strings,
    },
  }
}
