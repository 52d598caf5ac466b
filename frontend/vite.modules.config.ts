// The front end's own logic as one module, for the tests: `vite build -c vite.modules.config.ts`.
import { defineConfig } from "vite";

export default defineConfig({
  define: { "process.env.NODE_ENV": JSON.stringify("production") },
  build: { lib: { entry: "tests/modules.ts", formats: ["es"], fileName: "modules" }, minify: false },
});
