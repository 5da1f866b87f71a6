import { Component, provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { of, throwError } from 'rxjs';
import { Api } from '../api';
import { NewPipeline } from './new-pipeline';

@Component({ imports: [NewPipeline], template: `<sieve-new-pipeline [files]="files()" (made)="made.push($event)" />` })
class Host {
  readonly files = signal<readonly File[]>([]);
  readonly made: number[] = [];
}

interface Asked {
  readonly name: string;
  readonly reports: { readonly template?: string; readonly year?: number };
}

describe('files dropped for a new pipeline', () => {
  async function drop(names: readonly string[], refusal?: string) {
    const [asked, put]: [Asked[], string[]] = [[], []];
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        {
          provide: Api,
          useValue: {
            addPipeline: (document: Asked, folder: string | undefined) => {
              expect(folder).toBeUndefined();
              asked.push(document);
              return refusal === undefined ? of({ id: 7 }) : throwError(() => new Error(refusal));
            },
            dropFile: (_pipeline: number, file: File) => (put.push(file.name), of(undefined)),
            folders: () => of({ folder: '/reports', folders: [], pdfs: [] }),
          },
        },
      ],
    });
    const fixture = TestBed.createComponent(Host);
    fixture.componentInstance.files.set(names.map((name) => new File(['%PDF'], name)));
    await fixture.whenStable();
    return { host: fixture.componentInstance, root: fixture.nativeElement as HTMLElement, asked, put };
  }

  it('make it at once: its name and its periods are told by theirs', async () => {
    const { host, asked, put } = await drop(['landings-2025-06.pdf', 'landings-2025-07.pdf', 'landings-2025-08.pdf']);
    expect(asked).toEqual([expect.objectContaining({ name: 'Landings', reports: { template: 'landings-{year}-{month}.pdf' } })]);
    expect([put, host.made]).toEqual([['landings-2025-06.pdf', 'landings-2025-07.pdf', 'landings-2025-08.pdf'], [7]]);
  });

  it('wait for the form where one of them is no report', async () => {
    const { root, asked } = await drop(['landings-2025-06.pdf', 'notes.txt']);
    expect(asked).toEqual([]);
    expect(root.querySelector<HTMLInputElement>('#name')!.value).not.toBe('');
    expect(root.textContent).toContain('1 dropped PDF file: landings-2025-06.pdf');
  });

  it('stay in the form, with the reason, where the server refuses them', async () => {
    const { host, root, put } = await drop(['landings-2025-06.pdf', 'landings-2025-07.pdf'], 'A pipeline of this name is there.');
    expect(root.querySelector('[role=alert]')!.textContent).toContain('A pipeline of this name is there.');
    expect([put, host.made]).toEqual([[], []]);
    expect(root.querySelector<HTMLButtonElement>('button[pButton]')!.disabled).toBe(false);
  });
});
