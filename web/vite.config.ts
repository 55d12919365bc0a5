import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";
import { pocketPage } from "./pocketpage";

export default defineConfig({
  plugins: [
    react(),
    pocketPage(),
    VitePWA({
      // A technician's first page registers it: whoever works in the office needs no copy of the program.
      injectRegister: false,
      registerType: "prompt",
      strategies: "generateSW",
      manifest: {
        name: "Pragmata",
        short_name: "Pragmata",
        start_url: "/",
        display: "standalone",
        background_color: "#f5f2ea",
        theme_color: "#f5f2ea",
        icons: [
          { src: "/icon.svg", sizes: "any", type: "image/svg+xml" },
          { src: "/icon-192.png", sizes: "192x192", type: "image/png" },
          { src: "/icon-512.png", sizes: "512x512", type: "image/png" },
        ],
      },
      workbox: {
        globPatterns: ["**/*.{js,css,html,svg,woff2}"],
        // Without a network every address is the one page.
        globIgnores: ["pocket.html"],
        navigateFallback: "/index.html",
        navigateFallbackDenylist: [/^\/api\//],
        cleanupOutdatedCaches: true,
        runtimeCaching: [
          {
            // What reads codes is large: it is there without a network once it was used.
            urlPattern: /\.wasm$/,
            handler: "CacheFirst",
            options: { cacheName: "code-reader", expiration: { maxEntries: 1 } },
          },
          {
            // What sites looked like on the last visits is seen without a network too.
            urlPattern: /\/api\/pocket\/photos\/\d+\/small$/,
            handler: "CacheFirst",
            options: { cacheName: "photos", expiration: { maxEntries: 200 } },
          },
        ],
      },
    }),
  ],
  build: { target: "es2022", chunkSizeWarningLimit: 900 },
  server: { proxy: { "/api": "http://127.0.0.1:8400" } },
});
