import type { Routes } from '@angular/router';
import type { PipelinePage } from './pipeline/pipeline-page';

/** Every place has its address; each screen is loaded when it is first gone to. */
export const routes: Routes = [
  { path: '', pathMatch: 'full', loadComponent: () => import('./pipelines/pipelines-page').then((m) => m.PipelinesPage) },
  {
    path: 'pipelines/:pipeline',
    loadComponent: () => import('./pipeline/pipeline-page').then((m) => m.PipelinePage),
    canDeactivate: [(page: PipelinePage) => page.mayLeave()],
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'intake' },
      { path: 'intake', loadComponent: () => import('./intake/intake-page').then((m) => m.IntakePage) },
      { path: 'bench', loadComponent: () => import('./bench/bench-page').then((m) => m.BenchPage) },
      { path: 'dataset', loadComponent: () => import('./dataset/dataset-page').then((m) => m.DatasetPage) },
      { path: 'dataset/summary', loadComponent: () => import('./summary/summary-page').then((m) => m.SummaryPage) },
      { path: 'needs', loadComponent: () => import('./needs/needs-page').then((m) => m.NeedsPage) },
      { path: 'runs', loadComponent: () => import('./runs/runs-page').then((m) => m.RunsPage) },
      { path: 'runs/:run', loadComponent: () => import('./runs/runs-page').then((m) => m.RunsPage) },
    ],
  },
  { path: '**', redirectTo: '' },
];
