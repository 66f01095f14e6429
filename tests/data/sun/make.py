#!/usr/bin/python3
# SPDX-License-Identifier: GPL-3.0-or-later
# Writes almanac.tsv: the sun at 40 places and dates by PyEphem (package python3-ephem, the XEphem library), which shares
# nothing with libnova. Times are seconds since 1970, UTC; "-" where there is none on that local day.
import datetime
import math
import zoneinfo

import ephem

PLACES = [
    ("Greenwich", 51.4779, 0.0, "Europe/London"), ("Vienna", 48.2, 16.37, "Europe/Vienna"),
    ("Quito", -0.18, -78.47, "America/Guayaquil"), ("Nairobi", -1.29, 36.82, "Africa/Nairobi"),
    ("Auckland", -36.85, 174.76, "Pacific/Auckland"), ("Fiji", -17.8, 178.0, "Pacific/Fiji"),
    ("Samoa", -13.8, -171.8, "Pacific/Apia"), ("Adak", 51.88, -176.66, "America/Adak"),
    ("Tromso", 69.65, 18.96, "Europe/Oslo"), ("Longyearbyen", 78.22, 15.64, "Arctic/Longyearbyen"),
    ("South Pole", -90.0, 0.0, "UTC"), ("North Pole", 90.0, 0.0, "UTC"), ("McMurdo", -77.85, 166.67, "Antarctica/McMurdo"),
    ("Ushuaia", -54.8, -68.3, "America/Argentina/Ushuaia"), ("Kathmandu", 27.7, 85.3, "Asia/Kathmandu"),
    ("Lord Howe", -31.55, 159.08, "Australia/Lord_Howe"), ("Anchorage", 61.2, -149.9, "America/Anchorage"),
    ("Honolulu", 21.3, -157.86, "Pacific/Honolulu"), ("Reykjavik", 64.13, -21.9, "Atlantic/Reykjavik"),
    ("Kashgar", 39.47, 75.99, "Asia/Shanghai")]
# Solstices, an equinox, and the days clocks change in Europe and in America in 2026 and 2027.
DATES = ["2026-06-21", "2026-12-21", "2026-03-29", "2026-10-25", "2026-11-01", "2027-03-14", "2027-03-20", "2045-08-09"]


def seconds(when):
    return "-" if when is None else str(round((ephem.Date(when).datetime() - datetime.datetime(1970, 1, 1)).total_seconds()))


def events(observer, begin, end, horizon):
    observer.horizon = horizon
    rise = fall = None
    try:
        observer.date = begin
        rise = observer.next_rising(ephem.Sun(), use_center=True)
        rise = rise if rise < end else None
    except ephem.CircumpolarError:
        pass
    try:
        observer.date = end
        fall = observer.previous_setting(ephem.Sun(), use_center=True)
        fall = fall if fall >= begin else None
    except ephem.CircumpolarError:
        pass
    return [seconds(rise), seconds(fall)]


with open("almanac.tsv", "w") as out:
    print("# name\tlatitude\tlongitude\tzone\tdate\tnoon\tazimuth\taltitude\trise\tset\tcivil rise\tcivil set\t"
          "astronomical rise\tastronomical set\ttransit", file=out)
    for number in range(40):
        name, latitude, longitude, zone = PLACES[number % len(PLACES)]
        date = DATES[(number * 3 + number // len(PLACES)) % len(DATES)]
        local = datetime.datetime.fromisoformat(date).replace(tzinfo=zoneinfo.ZoneInfo(zone))
        following = (datetime.datetime.fromisoformat(date) + datetime.timedelta(days=1)).replace(tzinfo=zoneinfo.ZoneInfo(zone))
        begin, end = (ephem.Date(t.astimezone(datetime.timezone.utc).replace(tzinfo=None)) for t in (local, following))
        observer = ephem.Observer()
        observer.lat, observer.lon, observer.pressure, observer.elevation = str(latitude), str(longitude), 0, 0
        noon = int(local.timestamp()) + 12 * 3600 + 1234
        observer.date = ephem.Date(datetime.datetime(1970, 1, 1) + datetime.timedelta(seconds=noon))
        sun = ephem.Sun(observer)
        row = [name, latitude, longitude, zone, date, noon, f"{math.degrees(sun.az):.5f}", f"{math.degrees(sun.alt):.5f}"]
        row += events(observer, begin, end, "-0:50") + events(observer, begin, end, "-6") + events(observer, begin, end, "-18")
        observer.date = begin
        row.append(seconds(observer.next_transit(ephem.Sun())))
        print("\t".join(map(str, row)), file=out)
