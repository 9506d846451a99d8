import { bootstrapApplication } from '@angular/platform-browser';
import { appConfig } from './frame/config';
import { Root } from './frame/root';

bootstrapApplication(Root, appConfig).catch((error: unknown) => console.error(error));
