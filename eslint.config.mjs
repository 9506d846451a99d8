import angular from 'angular-eslint';
import tseslint from 'typescript-eslint';

const NO_CLOCK_OR_CHANCE = [
  { selector: "CallExpression[callee.object.name='Date'][callee.property.name='now']", message: 'core has no clock.' },
  { selector: "NewExpression[callee.name='Date'][arguments.length=0]", message: 'core has no clock.' },
  {
    selector: "CallExpression[callee.object.name='Math'][callee.property.name='random']",
    message: 'core has no chance.',
  },
];

const ZOD = {
  selector: "ImportDeclaration[source.value='zod'] > :matches(ImportSpecifier, ImportDefaultSpecifier)",
  message: "import * as z from 'zod': the named import pulls every language in.",
};

export default tseslint.config(
  { ignores: ['dist/', 'node_modules/', '.angular/', 'coverage/', 'test-results/', '.kampong/', 'bench/shell-floor/'] },
  {
    files: ['**/*.ts'],
    extends: [...tseslint.configs.recommended],
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': [
        'error',
        { fixStyle: 'inline-type-imports', disallowTypeAnnotations: false },
      ],
      '@typescript-eslint/no-non-null-assertion': 'off',
      'no-restricted-syntax': ['error', ZOD],
      eqeqeq: 'error',
      'no-console': 'off',
    },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: { 'no-restricted-syntax': ['error', ZOD, ...NO_CLOCK_OR_CHANCE] },
  },
  {
    files: ['web/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'k', style: 'kebab-case' }],
      '@angular-eslint/component-class-suffix': 'off',
    },
  },
  {
    files: ['web/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
    rules: {
      // Rows of Today and grids take keys on the row itself.
      '@angular-eslint/template/interactive-supports-focus': 'off',
      '@angular-eslint/template/click-events-have-key-events': 'off',
      '@angular-eslint/template/label-has-associated-control': 'off',
    },
  },
);
