declare module 'datapackage' {
  interface Resource {
    readonly valid: boolean;
    readonly tabular: boolean;
    read(options?: { cast?: boolean }): Promise<unknown[][]>;
  }
  interface LoadedPackage {
    readonly valid: boolean;
    readonly errors: readonly Error[];
    readonly resources: readonly Resource[];
  }
  export const Package: {
    load(descriptor: string | object, options?: { basePath?: string; strict?: boolean }): Promise<LoadedPackage>;
  };
}
