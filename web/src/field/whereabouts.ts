import { useEffect, useState } from "react";
import { useSession } from "../people/SessionGate";

/** A position that is older says nothing of where somebody taps. */
const FRESH = 120_000;

/** A place as the phone says it itself, in degrees (WGS 84). */
export type Whereabouts = Record<"latitude" | "longitude" | "accuracyMetres", number>;

let last: GeolocationPosition | undefined;

/** How many parts of the page want to know, and the one lookup for all of them. */
let asking = 0;
let watch: number | undefined;

function look() {
  if (asking > 0 && document.visibilityState === "visible") {
    watch ??= navigator.geolocation.watchPosition(
      (position) => {
        last = position;
      },
      () => undefined,
      { enableHighAccuracy: true, maximumAge: FRESH },
    );
  } else if (watch !== undefined) {
    navigator.geolocation.clearWatch(watch);
    watch = undefined;
  }
}

function ask() {
  asking++;
  look();
  document.addEventListener("visibilitychange", look);
  return () => {
    asking--;
    look();
    if (asking === 0) {
      document.removeEventListener("visibilitychange", look);
    }
  };
}

/**
 * Where this phone is, for taps of a clock and for photos: looked up only where the company wants to know, whoever
 * carries the phone allows it, and the page is looked at. No tap waits for it.
 */
export function useWhereabouts() {
  const { tapPositionDays: days } = useSession();
  const asked = days > 0 && "geolocation" in navigator && "permissions" in navigator;
  const [permission, setPermission] = useState<PermissionState>();
  useEffect(() => {
    if (!asked) {
      return;
    }
    let status: PermissionStatus | undefined;
    const told = () => setPermission(status?.state);
    void navigator.permissions.query({ name: "geolocation" }).then((now) => {
      status = now;
      status.addEventListener("change", told);
      told();
    });
    return () => status?.removeEventListener("change", told);
  }, [asked]);
  const known = asked && permission === "granted";
  useEffect(() => (known ? ask() : undefined), [known]);
  return {
    days,
    permission: asked ? permission : undefined,
    /** Where it is now; nothing where nobody asks, nobody may know or it does not know itself. */
    position: (): Whereabouts | undefined =>
      known && last && Date.now() - last.timestamp < FRESH
        ? {
            latitude: last.coords.latitude,
            longitude: last.coords.longitude,
            accuracyMetres: last.coords.accuracy,
          }
        : undefined,
  };
}
