import { Injectable } from '@angular/core';
import { BaseRouteReuseStrategy, type ActivatedRouteSnapshot } from '@angular/router';

/**
 * A page belongs to what its address names: another document is another page, made anew with all it holds, so that
 * nothing typed in one can stand in the next. What is only asked of a page (its query) changes within it.
 */
@Injectable()
export class PageForEachDocument extends BaseRouteReuseStrategy {
  override shouldReuseRoute(future: ActivatedRouteSnapshot, current: ActivatedRouteSnapshot): boolean {
    return super.shouldReuseRoute(future, current) && sameParams(future.params, current.params);
  }
}

function sameParams(one: Record<string, unknown>, other: Record<string, unknown>): boolean {
  const names = Object.keys(one);
  return names.length === Object.keys(other).length && names.every((name) => one[name] === other[name]);
}
