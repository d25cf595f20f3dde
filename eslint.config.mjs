import tseslint from 'typescript-eslint';

/** Dependencies point inwards: web, render -> data -> files, kernels -> core. Each list names what a room may import beside its own files. */
const rooms = {
  core: '@sinclair/typebox|fft.js|immer|ml-levenberg-marquardt',
  files: '@umbo/core/.+|node:.+|lcms-wasm|libraw-wasm|pdfkit|sharp',
  data: '@umbo/(core/.+|files)|node:.+|ajv|mysql2|sequelize|umzug',
  kernels: '@umbo/core/.+',
  render: '@umbo/(core/.+|data|files(/lease)?|find(/files)?|kernels)|node:.+|fast-xml-parser|pino|piscina|sharp',
};
const room = (name, allowed) => ({
  files: [`${name}/src/**/*.ts`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          { regex: `^(?!\\.{1,2}/|(${allowed})$)`, message: `${name} does not depend on this.` },
          {
            regex: '/(core|data|files|kernels|render|web)/src/|/(demo|tools|e2e)/',
            message: `${name} keeps to its own folder and to what its package names.`,
          },
        ],
      },
    ],
  },
});

export default tseslint.config(
  {
    ignores: [
      '**/node_modules',
      '**/.next',
      '.data',
      '**/dist',
      '**/next-env.d.ts',
      'test-results',
      'scratch',
      '**/*.gen.ts',
      'kernels/assembly',
    ],
  },
  ...tseslint.configs.recommended,
  { rules: { '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }], eqeqeq: 'error', 'no-console': 'off' } },
  {
    files: ['*/src/**/*.{ts,tsx}', '*/test/**/*.ts', 'e2e/**/*.ts', 'demo/*.ts'],
    languageOptions: { parserOptions: { project: 'tsconfig.lint.json', tsconfigRootDir: import.meta.dirname } },
    rules: {
      // What is not waited for and fails is lost in silence.
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': 'error',
    },
  },
  ...Object.entries(rooms).map(([name, allowed]) => room(name, allowed)),
  {
    files: ['core/src/**/*.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'process',
        'Buffer',
        'fetch',
        'navigator',
        'postMessage',
        'self',
        'localStorage',
      ],
    },
  },
);
