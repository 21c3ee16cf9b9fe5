import { ASKS, PROGRAMME_STEPS, STOPS } from '#core/programme'
import { CHANNEL_FACTS, CHANNELS } from '#core/samples'

const problem = { $ref: '#/components/responses/Problem' }
const json = (schema: object) => ({ required: true, content: { 'application/json': { schema } } })
const answer = (description: string, schema: object) => ({
  description,
  content: { 'application/json': { schema } },
})
const deviceId = { name: 'deviceId', in: 'path', required: true, schema: { type: 'string', format: 'uuid' } }
const channel = {
  type: 'string',
  enum: CHANNELS,
  description: CHANNELS.map((each) => `${each}: ${CHANNEL_FACTS[each].unit}`).join('; '),
}

/** The paths that live instruments use, for the document of the interface. */
export const SAMPLE_PATHS = {
  '/api/v1/pairings': {
    post: {
      operationId: 'pair',
      summary: 'Trade a one-time code for a device and its token',
      security: [],
      requestBody: json({
        type: 'object',
        required: ['code', 'name', 'channels'],
        properties: {
          code: {
            type: 'string',
            description: 'Made by a manager under Kit, Live instruments; good for 15 minutes.',
          },
          name: { type: 'string', maxLength: 80 },
          channels: { type: 'array', items: channel, uniqueItems: true, minItems: 1 },
          standIn: { type: 'boolean', default: false, description: 'A simulated stand-in: it has knobs.' },
        },
      }),
      responses: {
        201: answer('The device. The token is said once.', {
          type: 'object',
          properties: {
            deviceId: { type: 'string' },
            token: { type: 'string' },
            channels: { type: 'array', items: channel },
          },
        }),
        403: problem,
        422: problem,
        429: problem,
      },
    },
  },
  '/api/v1/samples': {
    post: {
      operationId: 'sendSamples',
      summary: 'Up to 1,000 samples of one device',
      description:
        'Sending a batch again changes nothing. What cannot be taken is named one by one; the rest is kept.',
      security: [{ device: [] }],
      requestBody: json({
        type: 'object',
        required: ['samples'],
        properties: {
          samples: {
            type: 'array',
            maxItems: 1_000,
            items: {
              type: 'object',
              required: ['channel', 'seq', 'at', 'value'],
              properties: {
                device: { type: 'string', description: 'May stay out: the token says it.' },
                channel,
                seq: {
                  type: 'integer',
                  minimum: 0,
                  description: 'Rises with each sample of a channel, also over restarts.',
                },
                at: {
                  oneOf: [
                    { type: 'string', format: 'date-time' },
                    { type: 'integer', description: 'ms since 1970' },
                  ],
                },
                value: { type: 'number' },
              },
            },
          },
        },
      }),
      responses: {
        200: answer('All of them are kept.', {
          type: 'object',
          properties: {
            accepted: { type: 'integer' },
            known: { type: 'integer', description: 'Had been taken before.' },
          },
        }),
        207: { ...problem, description: 'Some are kept; `errors` names the others.' },
        401: problem,
        413: problem,
        422: problem,
        429: problem,
        503: problem,
      },
    },
  },
  '/api/v1/devices/{deviceId}/commands': {
    get: {
      operationId: 'commands',
      summary: 'What the device is asked to do: a long poll',
      security: [{ device: [] }],
      parameters: [
        deviceId,
        {
          name: 'after',
          in: 'query',
          schema: { type: 'integer', default: 0 },
          description: 'The number of the last command it has.',
        },
        {
          name: 'wait',
          in: 'query',
          schema: { type: 'number', default: 25, maximum: 25 },
          description: 'Seconds.',
        },
      ],
      responses: {
        200: answer('Commands in order; none when the wait is over.', {
          type: 'object',
          properties: {
            commands: {
              type: 'array',
              items: { type: 'object', properties: { nr: { type: 'integer' }, command: { type: 'object' } } },
            },
          },
        }),
        401: problem,
        403: problem,
        429: problem,
      },
    },
  },
  '/api/v1/devices/{deviceId}/state': {
    put: {
      operationId: 'state',
      summary: 'How the knobs of a stand-in stand',
      security: [{ device: [] }],
      parameters: [deviceId],
      requestBody: json({ type: 'object' }),
      responses: { 204: { description: 'Kept.' }, 401: problem, 403: problem, 422: problem, 429: problem },
    },
  },
  '/api/v1/devices/{deviceId}/programme': {
    post: {
      operationId: 'programme',
      summary: 'What a service station says of the programme that it was given (docs/station.md)',
      security: [{ device: [] }],
      parameters: [deviceId],
      requestBody: json({
        type: 'object',
        required: ['programmeId', 'sentAt', 'reports'],
        properties: {
          programmeId: { type: 'string', format: 'uuid' },
          sentAt: { type: 'integer', description: 'Its clock when it sent them, ms since 1970.' },
          reports: {
            type: 'array',
            minItems: 1,
            maxItems: 100,
            items: {
              type: 'object',
              required: ['nr', 'at', 'kind'],
              properties: {
                nr: { type: 'integer', minimum: 1 },
                at: { type: 'integer' },
                kind: { enum: ['began', 'done', 'asks', 'ended'] },
                step: { enum: PROGRAMME_STEPS },
                ask: { enum: ASKS },
                how: { enum: ['finished', 'stopped'] },
                why: { enum: STOPS },
                readings: { type: 'object' },
              },
            },
          },
        },
      }),
      responses: {
        204: { description: 'Written down.' },
        401: problem,
        403: problem,
        404: problem,
        422: problem,
        429: problem,
        503: problem,
      },
    },
  },
}
