/** A record as it is now, so that it can be sent again after somebody else changed it; as it was shown when it has gone. */
export function latest<T extends { id: number }>(
  records: T[] | undefined,
  shown: T | undefined,
): T | undefined {
  return records?.find((record) => record.id === shown?.id) ?? shown;
}

/** The same of records that are known by something else. */
export function latestBy<T>(records: T[] | undefined, same: (record: T) => boolean, shown: T): T {
  return records?.find(same) ?? shown;
}
