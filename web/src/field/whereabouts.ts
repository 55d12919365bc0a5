import { useEffect, useState } from "react";
import type { PositionForm } from "../api/generated/schema";
import { useSession } from "../people/SessionGate";

/** A position that is older says nothing of where somebody taps. */
const FRESH = 120_000;

let last: GeolocationPosition | undefined;

/**
 * Where this phone is, for taps of a clock: looked up only where the company wants to know, whoever carries the phone
 * allows it, and the page is looked at. No tap waits for it.
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
  useEffect(() => {
    if (!known) {
      return;
    }
    let watch: number | undefined;
    const look = () => {
      if (document.visibilityState === "visible") {
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
    };
    look();
    document.addEventListener("visibilitychange", look);
    return () => {
      document.removeEventListener("visibilitychange", look);
      if (watch !== undefined) {
        navigator.geolocation.clearWatch(watch);
      }
    };
  }, [known]);
  return {
    days,
    permission: asked ? permission : undefined,
    /** Where it is now; nothing where nobody asks, nobody may know or it does not know itself. */
    position: (): PositionForm | undefined =>
      known && last && Date.now() - last.timestamp < FRESH
        ? {
            latitude: last.coords.latitude,
            longitude: last.coords.longitude,
            accuracyMetres: last.coords.accuracy,
          }
        : undefined,
  };
}
