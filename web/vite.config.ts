import tailwindcss from '@tailwindcss/vite'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [tailwindcss()],
  esbuild: { jsx: 'automatic' },
  build: {
    target: 'es2022',
    assetsInlineLimit: 0,
    rollupOptions: {
      // "use client" marks in Radix mean nothing without a server renderer.
      onwarn: (warning, warn) => {
        if (warning.code !== 'MODULE_LEVEL_DIRECTIVE') warn(warning)
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8000' } },
})
