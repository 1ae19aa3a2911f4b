// Runs before the page is painted: the stored choice, else the system's setting.
const stored = localStorage.getItem('zygopod-theme');
const night = stored ? stored === 'night' : matchMedia('(prefers-color-scheme: dark)').matches;
document.documentElement.dataset.theme = night ? 'night' : 'day';
