import { createHash } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import Components from 'unplugin-vue-components/vite'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import { build, defineConfig, type Plugin } from 'vite'

/** Builds the service worker beside the pages, with the list of their files in it. */
function serviceWorker(): Plugin {
  const here = (path: string) => fileURLToPath(new URL(path, import.meta.url))
  return {
    name: 'service-worker',
    apply: 'build',
    async writeBundle({ dir = here('dist') }, bundle) {
      const files = [...Object.keys(bundle), ...readdirSync(here('public'))]
      const version = (file: string) =>
        createHash('sha256')
          .update(readFileSync(join(dir, file)))
          .digest('hex')
          .slice(0, 16)
      // Names of assets carry a hash of their content.
      const entry = (file: string) => ({
        url: `/${file}`,
        revision: file.startsWith('assets/') ? null : version(file),
      })
      await build({
        configFile: false,
        publicDir: false,
        logLevel: 'warn',
        define: {
          'self.__FILES': JSON.stringify(files.map(entry)),
          'process.env.NODE_ENV': '"production"',
        },
        build: {
          outDir: dir,
          emptyOutDir: false,
          lib: {
            entry: here('src/offline/worker.ts'),
            formats: ['iife'],
            name: 'worker',
            fileName: () => 'sw.js',
          },
        },
      })
    },
  }
}

export default defineConfig({
  plugins: [
    vue(),
    serviceWorker(),
    Components({
      dirs: [],
      dts: 'src/components.d.ts',
      resolvers: [ElementPlusResolver({ importStyle: process.env.VITEST ? false : 'css' })],
    }),
  ],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  server: { proxy: { '/api': 'http://127.0.0.1:4817' } },
  build: { chunkSizeWarningLimit: 900 },
})
