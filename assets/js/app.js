// The one script of every page: htmx for previews, Alpine (CSP build) for components, nothing inline.
import Alpine from "@alpinejs/csp";
import htmx from "htmx.org";
import { forms } from "./forms.js";
import { keys } from "./keys.js";
import { outboxStatus } from "./outbox-status.js";
import { startSending } from "./outbox.js";
import { plate } from "./plate.js";
import { practice } from "./practice.js";
import { readout } from "./readout.js";
import { sheet } from "./sheet.js";
import { swaps } from "./swaps.js";
import { themeSwitch } from "./theme.js";

window.htmx = htmx;
htmx.config.includeIndicatorStyles = false;
htmx.config.allowEval = false;
htmx.config.allowScriptTags = false;

swaps();
Alpine.data("outboxStatus", outboxStatus);
Alpine.data("sheet", sheet);
Alpine.data("themeSwitch", themeSwitch);
readout(document);
keys();
forms(document);
plate(document);
practice(document);
Alpine.start();
startSending();
