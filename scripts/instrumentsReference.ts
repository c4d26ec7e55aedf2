import { deviceAnswerLine, deviceHello, deviceLine, jsonSchemaOf, PROTOCOL_VERSION } from '../src/contract';

/** What instruments and the register say to each other, as a JSON Schema of what is said and of what is answered. */
export function instrumentsSchema(): string {
  const { $schema: _said, ...hello } = jsonSchemaOf(deviceHello) as Record<string, unknown>;
  const { $schema: _line, ...lines } = jsonSchemaOf(deviceLine) as Record<string, unknown>;
  const { $schema: _answer, ...answers } = jsonSchemaOf(deviceAnswerLine) as Record<string, unknown>;
  const schema = {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: `What instruments and the register say, version ${PROTOCOL_VERSION}`,
    oneOf: [{ $ref: '#/$defs/hello' }, { $ref: '#/$defs/line' }, { $ref: '#/$defs/answer' }],
    $defs: { hello, line: lines, answer: answers },
  };
  return `${JSON.stringify(schema, null, 2)}\n`;
}
