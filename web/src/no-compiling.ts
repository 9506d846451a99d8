// The content policy forbids code made from text, so schemas are never compiled. This runs before anything that
// makes one: the setting is where zod looks for it at its first breath.
(globalThis as { __zod_globalConfig?: { jitless: boolean } }).__zod_globalConfig = { jitless: true };
export {};
