import { answered, client } from "./client";
import type {
  BuildDocument,
  KeepRide,
  KeptRideCard,
  MeterDayAsked,
  RideDocument,
  RidePlaces,
  WayRead,
} from "./types";

export const ride = (
  document: BuildDocument,
  asked: RideDocument,
  draws: number,
  signal?: AbortSignal,
) => answered(client.POST("/api/ride", { body: { document, ride: asked, draws }, signal }));

/** Every tenth of a second of a ride as a table. */
export const rideTable = (document: BuildDocument, asked: RideDocument) =>
  answered(
    client.POST("/api/ride/table", { body: { document, ride: asked, draws: 0 }, parseAs: "text" }),
  );

/** A ride as a track with speeds. */
export const rideGpx = (document: BuildDocument, asked: RideDocument, track: RidePlaces) =>
  answered(
    client.POST("/api/ride/gpx", { body: { document, ride: asked, track }, parseAs: "text" }),
  );

/** The road of a GPX file. */
export const readWay = (file: File) =>
  answered(
    client.POST("/api/ride/way", {
      body: file as unknown as string,
      bodySerializer: (body) => body,
      headers: { "Content-Type": "text/plain" },
    }),
  ) as Promise<WayRead>;

const of = (build: string) => ({ params: { path: { build_id: build } } });
const one = (build: string, ride: string) => ({
  params: { path: { build_id: build, ride_id: ride } },
});

export const keptRides = (build: string) =>
  answered(client.GET("/api/builds/{build_id}/rides", of(build))) as Promise<KeptRideCard[]>;

export const keepRide = (build: string, id: string, body: KeepRide) =>
  answered(client.PUT("/api/builds/{build_id}/rides/{ride_id}", { ...one(build, id), body }));

export const takeRideOut = (build: string, id: string) =>
  answered(client.DELETE("/api/builds/{build_id}/rides/{ride_id}", one(build, id)));

export const runDocument = (build: string, id: string) =>
  `/api/builds/${build}/rides/${id}/document`;

export const beginMeterDay = (build: string, body: MeterDayAsked) =>
  answered(client.POST("/api/builds/{build_id}/meter-days", { ...of(build), body }));

export const facesOf = (build: string, day: string, pace: number) =>
  `/api/builds/${build}/meter-days/${day}/live?pace=${pace}`;

export const loggerOf = (build: string, day: string) =>
  `/api/builds/${build}/meter-days/${day}/logger`;
