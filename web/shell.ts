import { createHash } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Plugin } from 'vite'

const MANY = /noto-sans-sc|\.woff$/ // the hundred parts of the Chinese face, and the older form of the others

/** Writes into the service worker which files make up the page, with a digest of those whose names bear none. */
export function shell(): Plugin {
  return {
    name: 'brinefrost-shell',
    apply: 'build',
    enforce: 'post',
    generateBundle(_, bundle) {
      const worker = bundle['sw.js']
      if (worker?.type !== 'chunk') throw new Error('the service worker was not built')
      const built = Object.values(bundle)
        .filter((file) => file.fileName !== 'sw.js' && !MANY.test(file.fileName))
        .map((file) => ({
          url: '/' + file.fileName,
          revision: file.fileName.startsWith('assets/')
            ? null
            : digest(file.type === 'chunk' ? file.code : file.source),
        }))
      const whole = readdirSync('public').map((name) => ({
        url: '/' + name,
        revision: digest(readFileSync(join('public', name))),
      }))
      worker.code = worker.code.replace(/\bSHELL\b/, JSON.stringify([...built, ...whole]))
    },
  }
}

function digest(content: string | Uint8Array): string {
  return createHash('sha256').update(content).digest('hex').slice(0, 16)
}
