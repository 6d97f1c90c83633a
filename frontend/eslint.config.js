import query from "@tanstack/eslint-plugin-query";
import prettier from "eslint-config-prettier";
import a11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["src/api/schema.d.ts", "dist"] },
  ...tseslint.configs.recommended,
  ...query.configs["flat/recommended"],
  a11y.flatConfigs.recommended,
  prettier,
  {
    plugins: { "react-hooks": hooks },
    linterOptions: { reportUnusedDisableDirectives: "error" },
    rules: {
      "react-hooks/rules-of-hooks": "error",
      "react-hooks/exhaustive-deps": "error",
      // A question puts the focus on the answer that does no harm.
      "jsx-a11y/no-autofocus": "off",
      // A region that scrolls takes the focus, so that keys scroll it.
      "jsx-a11y/no-noninteractive-tabindex": "off",
    },
  },
);
