import {
  QueryClient,
  type InvalidateOptions,
  type InvalidateQueryFilters,
  type QueryClientConfig,
  type QueryKey,
  type SetDataOptions,
} from "@tanstack/react-query";

// Asking is what was asked of the server and what it answered. An answer that was asked for before a change, and comes after it, may be
// that of before: it does not stand. The library asks again only where there is an older answer to show meanwhile, and lets one that is on
// its way overwrite what was put in its place.
export class Asking extends QueryClient {
  constructor(config?: QueryClientConfig) {
    super(config);
    const put = this.setQueryData.bind(this) as (key: QueryKey, data: unknown, o?: SetDataOptions) => unknown;
    this.setQueryData = ((queryKey: QueryKey, data: unknown, o?: SetDataOptions) => {
      const underWay = this.getQueryCache().find({ queryKey })?.state.fetchStatus === "fetching";
      const kept = put(queryKey, data, o);
      if (underWay) void this.invalidateQueries({ queryKey, exact: true });
      return kept;
    }) as QueryClient["setQueryData"];
  }

  override async invalidateQueries<K extends QueryKey = QueryKey>(
    filters?: InvalidateQueryFilters<K>,
    options?: InvalidateOptions,
  ): Promise<void> {
    const first = this.getQueryCache()
      .findAll({ ...filters, fetchStatus: "fetching" })
      .filter((q) => q.state.data === undefined);
    const asked = super.invalidateQueries(filters, options);
    if (first.length === 0) return asked;
    await Promise.allSettled([asked, ...first.map((q) => q.fetch())]); // what is on its way, not once more
    await super.invalidateQueries({ predicate: (q) => first.some((x) => x === q) }, options);
  }
}
