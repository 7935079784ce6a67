import { fileURLToPath } from 'node:url'
import { threadModule } from './server/outside/program'
import { registryModule } from './server/endpoints/find'
import { pagesModule } from './server/endpoints/pages'

export default defineNuxtConfig({
  modules: ['@pinia/nuxt', '@element-plus/nuxt', 'nuxt-auth-utils', 'nuxt-security', '@nuxt/eslint'],
  $production: { nitro: { entry: fileURLToPath(new URL('./server/entry.ts', import.meta.url)) } },
  // The console lives on a live picture of the calls; there is nothing to render before it has one.
  ssr: false,
  components: [{ path: '~/components', pathPrefix: false }],
  devtools: { enabled: false },
  app: {
    head: {
      title: 'Estafette',
      htmlAttrs: { lang: 'en' },
      meta: [{ name: 'description', content: 'The operator\'s console: answer, see who is free, pass on, and watch until somebody holds the call.' }],
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/icon.svg' }],
    },
  },
  css: [
    '@fontsource-variable/atkinson-hyperlegible-next/index.css',
    '@fontsource-variable/bricolage-grotesque/index.css',
    'element-plus/theme-chalk/dark/css-vars.css',
    '~/assets/tokens.css',
    '~/assets/base.css',
    '~/assets/records-page.css',
    '~/assets/figures.css',
    '~/assets/watch.css',
    '~/assets/phone.css',
    '~/assets/shelf.css',
    '~/assets/lower-bars.css',
    '~/assets/side-panel.css',
  ],
  runtimeConfig: {
    databaseUrl: '',
    exchangePort: '',
    linkToken: '',
    /** Of the sound process on this machine; empty: the house runs without sound. */
    soundPort: '',
    /** Where telephones of the network register, as an address and a port; empty: none are served. */
    sip: '',
    /** Which program understands names that are spoken (pocketsphinx); empty: they are typed. */
    recogniser: '',
    /** Stand-in handsets may be any telephone, and callers outside may be played. */
    demo: false,
    /** How many proxies of our own stand before the server: their word on where a request comes from counts. */
    trustProxy: 0,
    /** Where the journal keeps what has no room in memory while the database is away. */
    spillFolder: '',
    /** Origins of our own network from which calendars may be fetched all the same, with commas between: "http://127.0.0.1:4711". */
    calendarOrigins: '',
    /** Where the house's own customer system is asked who calls (docs/customer-lookup.json), what it is called, and the token for it; empty: there is none. */
    customerAddress: '',
    customerName: 'The customer system',
    customerToken: '',
    /** With it another program reads /metrics; empty: none may. */
    metricsToken: '',
    /** With it another program tells who is at which place; empty: none may. */
    occupancyToken: '',
    // Cookies travel over TLS only, unless the start command of the demo says that it runs without.
    session: { name: 'estafette', password: '', maxAge: 60 * 60 * 16, cookie: { sameSite: 'lax' as const, secure: true } },
  },
  alias: { '~~': fileURLToPath(new URL('.', import.meta.url)).replace(/\/$/, '') },
  // Other pages are fetched when somebody goes there: the console is usable sooner.
  experimental: { defaults: { nuxtLink: { prefetch: false } } },
  compatibilityDate: '2026-11-01',
  nitro: {
    experimental: { websocket: true },
    virtual: {
      '#endpoints': () => registryModule(fileURLToPath(new URL('./server/api', import.meta.url))),
      '#pages': () => pagesModule(fileURLToPath(new URL('./app/pages', import.meta.url))),
      '#reading-program': () => threadModule(fileURLToPath(new URL('./server/calendars/read-thread.ts', import.meta.url))),
      '#book-program': () => threadModule(fileURLToPath(new URL('./server/address-books/book-thread.ts', import.meta.url))),
    },
    esbuild: { options: { target: 'node20' } },
    // How schemas speak is set once, before the first is made: the build must not take it for nothing.
    moduleSideEffects: [fileURLToPath(new URL('./core/schema/wording.ts', import.meta.url))],
    externals: { trace: true },
    // The first load is what people wait for: what never changes is packed once, here.
    compressPublicAssets: { brotli: true, gzip: true },
    typescript: { tsConfig: { compilerOptions: { noUncheckedIndexedAccess: true }, include: ['../bench/day.ts'] } },
  },
  // The call model names schemas that only the server reads: without this word Yup would be fetched with the console, before the first form needs it.
  vite: { build: { rollupOptions: { treeshake: { moduleSideEffects: id => !id.includes('/node_modules/yup/') } } } },
  typescript: {
    strict: true,
    tsConfig: { compilerOptions: { noUnusedLocals: true, noUnusedParameters: true }, exclude: ['../tests', '../scripts', '../exchange', '../sound'] },
  },
  telemetry: false,
  hooks: {
    // What the first page begins with is fetched ahead; dragging is asked for once everybody is in sight (app/composables/later.ts),
    // and so is what other pages and the parts of forms say.
    'build:manifest': (manifest) => {
      const isLater = (name: string) => /pragmatic-drag-and-drop|words\/en\/rest|SpokenName|element-words|routing\/pointing/.test(name)
      for (const chunk of Object.values(manifest)) chunk.dynamicImports = chunk.dynamicImports?.filter(name => !isLater(name))
    },
  },
  eslint: { config: { stylistic: { braceStyle: 'stroustrup', arrowParens: false } } },
  security: {
    rateLimiter: false,
    // Bodies are limited in server/middleware/limits.ts, whether or not they say their length.
    requestSizeLimiter: false,
    xssValidator: false,
    // Nothing here is for pages of other sites.
    corsHandler: false,
    headers: {
      crossOriginEmbedderPolicy: false,
      // Whoever talks by this browser is asked by it first.
      permissionsPolicy: { 'camera': [], 'display-capture': [], 'fullscreen': [], 'geolocation': [], 'microphone': ['self'] },
      contentSecurityPolicy: {
        'default-src': ['\'self\''],
        'connect-src': ['\'self\''],
        'font-src': ['\'self\''],
        'img-src': ['\'self\'', 'data:'],
        // One's own voice, played back when one tries it.
        'media-src': ['\'self\'', 'blob:'],
        'script-src': ['\'self\'', '\'nonce-{{nonce}}\'', '\'strict-dynamic\''],
        'worker-src': ['\'self\''],
        'style-src': ['\'self\'', '\'unsafe-inline\''],
        'upgrade-insecure-requests': false,
      },
      // Served on loopback without TLS as well: forcing https would lock the demo out.
      strictTransportSecurity: false,
    },
  },
})
