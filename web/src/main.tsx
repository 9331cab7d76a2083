import { bootCore } from './core/boot';
import './styles/index.css';

// The core comes up while the other scripts are fetched and run; who opens a scene waits for it, and says where it failed.
void bootCore().catch(() => undefined);
void import('./page');
