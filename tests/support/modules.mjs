// Loads the front end's own modules as Vite does and calls their functions: one JSON question a line, one answer a line.
import { createInterface } from 'node:readline'
import { createServer } from 'vite'

const web = process.argv.at(-1)
const server = await createServer({
  root: web,
  configFile: false,
  logLevel: 'error',
  appType: 'custom',
  server: { middlewareMode: true, hmr: false, ws: false, watch: null },
  optimizeDeps: { noDiscovery: true },
  resolve: { alias: { '@': `${web}/src` } },
})

/** The chain of calls: each takes the one before it as its owner, so that a unit's own functions can be called. */
async function answer({ module, chain }) {
  let owner = await server.ssrLoadModule(module)
  for (const [name, ...given] of chain) {
    const found = owner[name]
    owner = typeof found === 'function' ? found.apply(owner, given) : found
  }
  return owner
}

for await (const line of createInterface({ input: process.stdin })) {
  let told
  try {
    told = { value: (await answer(JSON.parse(line))) ?? null }
  } catch (error) {
    told = { error: String(error) }
  }
  process.stdout.write(`${JSON.stringify(told)}\n`)
}
await server.close()
