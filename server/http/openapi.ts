import * as z from 'zod';
import { ActResult, preview, Problem, type ActEndpoint, type Endpoint, type Schema } from '@api/kit';

/** What is bound as an OpenAPI 3.1 document, made from the same schemas that check the requests. */
export function openApi(endpoints: readonly Endpoint[], acts: readonly ActEndpoint[]): object {
  const paths: Record<string, object> = {};
  for (const endpoint of endpoints) {
    const path = `/api${endpoint.path.replace(/:(\w+)/g, '{$1}')}`;
    paths[path] = {
      [endpoint.method.toLowerCase()]: {
        operationId: endpoint.name,
        summary: endpoint.summary,
        parameters: [...parametersOf(endpoint.params, 'path'), ...parametersOf(endpoint.query, 'query')],
        ...(endpoint.method === 'POST' ? { requestBody: bodyOf(endpoint.body) } : {}),
        responses: answers(endpoint.out),
        ...(endpoint.open ? { security: [] } : {}),
      },
    };
  }
  for (const act of acts) {
    const keyHeader = {
      name: 'Idempotency-Key',
      in: 'header',
      required: true,
      schema: { type: 'string', pattern: '^[\\w-]{8,64}$' },
      description: 'The same key with the same input is done once and answers the same.',
    };
    paths[`/api/acts/${act.name}`] = {
      post: {
        operationId: act.name,
        summary: act.summary,
        parameters: [keyHeader],
        requestBody: bodyOf(act.input),
        responses: answers(ActResult),
      },
    };
    paths[`/api/acts/${act.name}/preview`] = {
      post: {
        operationId: `${act.name}Preview`,
        summary: `What this would do: ${act.summary}`,
        requestBody: bodyOf(act.input),
        responses: answers(preview(act.preview)),
      },
    };
  }
  paths['/api/events'] = {
    get: {
      operationId: 'events',
      summary: 'Changes of the company as server-sent events named `change`.',
      responses: { 200: { description: 'A stream.', content: { 'text/event-stream': {} } } },
    },
  };
  return {
    openapi: '3.1.0',
    info: { title: 'Kampong', version: '1' },
    paths,
    components: {
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'kampong' } },
    },
    security: [{ session: [] }],
  };
}

function jsonSchema(schema: Schema, io: 'input' | 'output'): object {
  const { $schema: _dialect, ...rest } = z.toJSONSchema(schema, { io, unrepresentable: 'any' });
  return rest;
}

function parametersOf(schema: Schema, where: 'path' | 'query'): object[] {
  const { properties = {}, required = [] } = jsonSchema(schema, 'input') as {
    properties?: Record<string, object>;
    required?: string[];
  };
  return Object.entries(properties).map(([name, property]) => ({
    name,
    in: where,
    required: where === 'path' || required.includes(name),
    schema: property,
  }));
}

function bodyOf(schema: Schema): object {
  return { required: true, content: { 'application/json': { schema: jsonSchema(schema, 'input') } } };
}

function answers(schema: Schema): object {
  const problem = { 'application/problem+json': { schema: jsonSchema(Problem, 'output') } };
  return {
    200: { description: 'Done.', content: { 'application/json': { schema: jsonSchema(schema, 'output') } } },
    default: { description: 'Refused, in problem details.', content: problem },
  };
}
