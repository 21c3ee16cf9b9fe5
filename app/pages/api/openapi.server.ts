import { slots } from '~/slide-rule/fields'
import { KINDS } from '~/slide-rule/kinds'
import { variantName } from '~/slide-rule/limits'
import { schemaOf } from '~/slide-rule/schema.server'
import type { Tool } from '~/slide-rule/tool'
import { TOOLS } from '~/slide-rule/tools'

interface JsonSchema {
  properties?: Record<string, Record<string, unknown>>
  required?: string[]
}

/**
 * The whole JSON interface, described from the schemas that validate it (OpenAPI 3.1).
 * @param more paths beside the calculations
 */
export function openApi<More extends object>(origin: string, more: More = {} as More) {
  return {
    openapi: '3.1.0',
    info: {
      title: 'Keg',
      version: '1',
      summary: 'Every calculation of the slide rule with its working, and the way in for live instruments.',
      description:
        'Give each input once: as a plain number whose name says the unit (t_C=31), or in the notation of the trade with its unit (t=31 C). Numbers in results are SI, with display strings beside them. Local codes, the maker’s manual and licensed practice come first.',
      license: { name: 'MIT', identifier: 'MIT' },
    },
    servers: [{ url: origin }],
    security: [{ token: [] }],
    paths: {
      ...Object.fromEntries(TOOLS.map((tool) => [`/api/v1/calc/${tool.name}`, { get: operation(tool) }])),
      ...more,
    },
    components: {
      securitySchemes: {
        token: { type: 'http', scheme: 'bearer', description: 'Made by a manager under Settings.' },
        device: { type: 'http', scheme: 'bearer', description: 'What a pairing code was traded for.' },
      },
      schemas: SCHEMAS,
      responses: {
        Problem: {
          description: 'What went wrong, and what to do (RFC 9457).',
          content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
        },
      },
    },
  }
}

function operation(tool: Tool) {
  const problem = { $ref: '#/components/responses/Problem' }
  return {
    operationId: tool.name,
    summary: tool.title,
    description: tool.question,
    parameters: [
      ...parameters(tool),
      {
        name: 'units',
        in: 'query',
        description: 'Units of the display strings.',
        schema: { type: 'string', enum: ['metric', 'us'], default: 'metric' },
      },
    ],
    responses: {
      200: {
        description: 'The result with its working.',
        content: { 'application/json': { schema: { $ref: '#/components/schemas/Answer' } } },
      },
      401: problem,
      422: problem,
      429: problem,
    },
  }
}

function parameters(tool: Tool) {
  const { properties = {}, required = [] } = (
    schemaOf(tool)['~standard'] as unknown as {
      jsonSchema: { input: (options: { target: string }) => JsonSchema }
    }
  ).jsonSchema.input({ target: 'draft-2020-12' })
  const documented = Object.entries(properties).map(([name, { description, ...schema }]) => ({
    name,
    in: 'query',
    required: required.includes(name),
    description,
    schema,
  }))
  const notations = slots(tool.inputs)
    .filter(({ field, name }) => field.type === 'measure' && !(name in properties))
    .map(({ name, field }) => ({
      name,
      in: 'query',
      required: false,
      description: `${field.label}, in the notation of the trade with its unit; instead of ${KINDS[field.kind!].variants.map((v) => variantName(name, v)).join(', ')}.`,
      schema: { type: 'string', maxLength: 200 },
    }))
  return [...documented, ...notations]
}

/** Schemas that every answer has. */
export const strings = { type: 'array', items: { type: 'string' } }
export const WORKING_SCHEMA = {
  type: 'array',
  items: {
    type: 'object',
    required: ['what', 'how', 'gives'],
    properties: { what: { type: 'string' }, how: { type: 'string' }, gives: { type: 'string' } },
  },
}
const SCHEMAS = {
  Figure: {
    type: 'object',
    required: ['value', 'unit', 'display'],
    properties: {
      value: { type: 'number', description: 'SI, in the unit beside it.' },
      unit: { type: 'string' },
      display: { type: 'string' },
      range: {
        type: 'object',
        required: ['least', 'most'],
        properties: { least: { type: 'number' }, most: { type: 'number' } },
      },
      assumed: { type: 'boolean', description: 'Taken because nothing was given.' },
    },
  },
  Verdict: {
    type: 'object',
    required: ['outcome', 'words', 'reasons'],
    properties: {
      outcome: { type: 'string', enum: ['good', 'caution', 'bad', 'open'] },
      words: { type: 'string' },
      reasons: strings,
    },
  },
  Answer: {
    type: 'object',
    required: ['tool', 'inputs', 'result', 'working', 'uncertainty', 'source', 'caution', 'unknown'],
    properties: {
      tool: { type: 'string' },
      inputs: { type: 'object', additionalProperties: true },
      result: {
        type: 'object',
        required: ['summary'],
        properties: {
          summary: { type: 'string' },
          verdict: { $ref: '#/components/schemas/Verdict' },
        },
        additionalProperties: true,
      },
      working: WORKING_SCHEMA,
      uncertainty: strings,
      source: strings,
      caution: strings,
      unknown: strings,
    },
  },
  Problem: {
    type: 'object',
    required: ['type', 'title', 'status', 'detail'],
    properties: {
      type: { type: 'string' },
      title: { type: 'string' },
      status: { type: 'integer' },
      detail: { type: 'string' },
      reference: { type: 'string' },
      errors: {
        type: 'array',
        items: {
          type: 'object',
          required: ['name', 'sentence'],
          properties: { name: { type: 'string' }, sentence: { type: 'string' } },
        },
      },
    },
  },
}
