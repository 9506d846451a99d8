import { Component, provideZonelessChangeDetection } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatListModule } from '@angular/material/list';
import { MatMenuModule } from '@angular/material/menu';
import { MatSidenavModule } from '@angular/material/sidenav';
import { MatToolbarModule } from '@angular/material/toolbar';
import { bootstrapApplication } from '@angular/platform-browser';
import { provideRouter, RouterOutlet } from '@angular/router';

@Component({ selector: 'floor-page', template: '<h1>Empty</h1>' })
class EmptyPage {}

/** The least Material frame: a toolbar with a menu, a side list, a routed page; the same two fonts. */
@Component({
  selector: 'floor-root',
  imports: [MatButtonModule, MatListModule, MatMenuModule, MatSidenavModule, MatToolbarModule, RouterOutlet],
  template: `<mat-toolbar>Frame <button mat-button [matMenuTriggerFor]="menu">Menu</button></mat-toolbar>
    <mat-menu #menu="matMenu"><button mat-menu-item>One</button></mat-menu>
    <mat-sidenav-container>
      <mat-sidenav opened mode="side"
        ><mat-nav-list><a mat-list-item>Place</a></mat-nav-list></mat-sidenav
      >
      <mat-sidenav-content><router-outlet /></mat-sidenav-content>
    </mat-sidenav-container>`,
})
class FloorRoot {}

void bootstrapApplication(FloorRoot, {
  providers: [provideZonelessChangeDetection(), provideRouter([{ path: '**', component: EmptyPage }])],
});
