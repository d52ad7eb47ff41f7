import js from '@eslint/js'
import hooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

// features reach each other only through their index
const sideways = { regex: '^\\.\\./(?!\\.\\.)[^/]+/', message: 'Reach another feature through its index.' }

export default tseslint.config(
  { ignores: ['src/shared/client/schema.gen.ts'] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  hooks.configs.flat['recommended-latest'],
  { files: ['src/features/**/*.{ts,tsx}'], rules: { 'no-restricted-imports': ['error', { patterns: [sideways] }] } },
  {
    files: ['src/shared/**/*.{ts,tsx}'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [{ group: ['**/features/**'], message: 'Shared code knows no feature.' }] },
      ],
    },
  },
  // a test may say that something is there, which fails it where it is not, and look at what a part was given
  {
    files: ['src/**/*.test.{ts,tsx}'],
    rules: { '@typescript-eslint/no-non-null-assertion': 'off', 'react-hooks/globals': 'off' },
  },
)
