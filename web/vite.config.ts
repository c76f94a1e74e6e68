import vue from '@vitejs/plugin-vue'
import { fileURLToPath, URL } from 'node:url'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import Components from 'unplugin-vue-components/vite'
import { compression } from 'vite-plugin-compression2'
import { VitePWA } from 'vite-plugin-pwa'
import pxToRem from 'postcss-pxtorem'
import { configDefaults, defineConfig } from 'vitest/config'

// Unit tests load Element Plus as it is, where styles can't be imported; none of them looks at one.
const importStyle = process.env.VITEST ? false : 'css'

/** Tests that replace modules, or count on what a module keeps from its first use on: nobody else may meet these. */
const alone = 'src/**/*.alone.test.ts'

/** The name of a chunk or an asset, without what it is shared by, and without its extension. */
const nameOf = (name: string) => name.replace(/[.~].*/, '')

export default defineConfig({
  plugins: [
    vue(),
    Components({ dirs: [], dts: false, resolvers: [ElementPlusResolver({ importStyle })] }),
    // The application itself opens without network. A new version is taken on the next visit, as `newVersion.ts` says.
    VitePWA({
      registerType: 'prompt',
      injectRegister: null,
      manifest: {
        name: 'Kevyt',
        short_name: 'Kevyt',
        description: 'Weigh your gear, rank what could replace it, and plan what to buy.',
        display: 'standalone',
        start_url: '/',
        id: '/',
        background_color: '#20272a',
        theme_color: '#20272a',
        icons: [
          { src: 'mark.svg', sizes: 'any', type: 'image/svg+xml' },
          { src: 'icon-192.png', sizes: '192x192', type: 'image/png' },
          { src: 'icon-512.png', sizes: '512x512', type: 'image/png' },
          { src: 'icon-512.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
        ],
      },
      workbox: {
        globPatterns: ['**/*.{html,js,css,woff2,svg,png}'],
        navigateFallback: '/index.html',
        // What the server alone can say is asked of the server.
        navigateFallbackDenylist: [/^\/api\//],
        cleanupOutdatedCaches: true,
      },
    }),
    // Compressed once, as well as it goes; the server hands it out as it is.
    compression({ algorithms: ['brotliCompress'], include: /\.(js|css|svg)$/ }),
  ],
  // Lengths are written in pixels and shipped in rem, Element Plus's too: they follow the font size that the browser is set to. Drawings have
  // units of their own, and grow as a whole.
  css: {
    postcss: {
      plugins: [
        pxToRem({ propList: ['*'], mediaQuery: true, minPixelValue: 2, exclude: /marks\/(?!Figure)/ }),
      ],
    },
  },
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  // Fonts and styles stay files: the content security policy allows nothing inline.
  build: {
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 900,
    rolldownOptions: {
      checks: { pluginTimings: false },
      // What the first page loads is one file; what several steps share comes in few: a small one goes into another that is loaded with it.
      output: {
        chunkFileNames: ({ name }) => `assets/${nameOf(name)}-[hash].js`,
        assetFileNames: ({ names }) => `assets/${nameOf(names[0] ?? '')}-[hash][extname]`,
        codeSplitting: {
          groups: [
            { name: 'first', tags: ['$initial'], priority: 1 },
            { name: 'shared', minShareCount: 2, entriesAware: true, entriesAwareMergeThreshold: 40_000 },
          ],
        },
      },
    },
  },
  // Mounting a large form takes seconds on a busy machine; no test is told by its time.
  test: {
    environment: 'happy-dom',
    setupFiles: ['./src/tests/setup.ts'],
    testTimeout: 60_000,
    hookTimeout: 60_000,
    // Loading the application takes longer than most tests do: they share what is loaded, but for those that can't.
    projects: [
      { extends: true, test: { name: 'shared', isolate: false, exclude: [...configDefaults.exclude, alone] } },
      { extends: true, test: { name: 'alone', include: [alone] } },
    ],
  },
  server: { proxy: { '/api': process.env.KEVYT_API ?? 'http://127.0.0.1:8420' } },
})
