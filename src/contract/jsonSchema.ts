import { z } from 'zod';

/** What may be sent as JSON Schema has it: a field whose absence is accepted is not asked for. */
export function jsonSchemaOf(schema: z.ZodType, reused: 'inline' | 'ref' = 'inline') {
  return z.toJSONSchema(schema, {
    io: 'input',
    unrepresentable: 'any',
    reused,
    override: ({ zodSchema, jsonSchema }) => {
      const { def } = zodSchema._zod;
      // What is read as a number from an address, and lists that are not changed, say more than they need to.
      if (def.type === 'number' && jsonSchema.type === undefined) jsonSchema.type = 'number';
      delete jsonSchema.readOnly;
      if (zodSchema instanceof z.ZodObject && jsonSchema.required)
        jsonSchema.required = jsonSchema.required.filter(
          (name) => !(zodSchema.shape as Record<string, z.ZodType>)[name]!.safeParse(undefined).success,
        );
    },
  });
}
