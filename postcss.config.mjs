export default { plugins: { "@tailwindcss/postcss": { base: `${import.meta.dirname}/src` } } };
