import { askAhead } from './api/ahead';
import { bootCore } from './core/boot';
import './styles/index.css';

// The core comes up while the other scripts are fetched and run; who opens a scene waits for it, and says where it failed.
void bootCore().catch(() => undefined);
const linked = new URLSearchParams(location.search).get('scene');
if (linked !== null) askAhead(linked);
void import('./mount');
