import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

export default tseslint.config(
    { ignores: ['dist', 'src/api/schema.d.ts'] },
    js.configs.recommended,
    ...tseslint.configs.strictTypeChecked,
    hooks.configs.flat.recommended,
    {
        languageOptions: {
            parserOptions: {
                projectService: { allowDefaultProject: ['eslint.config.js'] },
                tsconfigRootDir: import.meta.dirname,
            },
        },
        rules: {
            '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
            '@typescript-eslint/no-confusing-void-expression': 'off',
            '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
            // The virtualised list and the table keep functions in their objects; the compiler is not used here.
            'react-hooks/incompatible-library': 'off',
        },
    },
    { files: ['eslint.config.js'], ...tseslint.configs.disableTypeChecked },
);
