<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="de" sourcelanguage="en">
<context>
    <name>words</name>
    <message>
        <source> % overlap</source>
        <translation> % Überlappung</translation>
    </message>
    <message>
        <source> %1 groups are set aside.</source>
        <translation> %L1 Gruppen sind beiseitegelegt.</translation>
    </message>
    <message>
        <source> %1: press M.</source>
        <translation> %L1: M drücken.</translation>
    </message>
    <message>
        <source> (%1)</source>
        <translation> (%L1)</translation>
    </message>
    <message>
        <source> ({}, while {})</source>
        <translation> ({}, beim {})</translation>
    </message>
    <message>
        <source> - %1</source>
        <translation> - %L1</translation>
    </message>
    <message>
        <source> And %1 more.</source>
        <translation> Und %L1 weitere.</translation>
    </message>
    <message>
        <source> It is {} late: what follows loses its light unless the order changes.</source>
        <translation> Es ist {} zu spät: Was folgt, verliert sein Licht, wenn die Reihenfolge bleibt.</translation>
    </message>
    <message>
        <source> One group is set aside.</source>
        <translation> Eine Gruppe ist beiseitegelegt.</translation>
    </message>
    <message>
        <source> There is no time to spare.</source>
        <translation> Es ist keine Zeit übrig.</translation>
    </message>
    <message>
        <source> There is time for a repeat: {} to spare.</source>
        <translation> Es ist Zeit für eine Wiederholung: {} übrig.</translation>
    </message>
    <message>
        <source> and </source>
        <translation> und </translation>
    </message>
    <message>
        <source> at {:.0f}°</source>
        <translation> mit {:.0Lf}°</translation>
    </message>
    <message>
        <source> at {}</source>
        <translation> bei {}</translation>
    </message>
    <message>
        <source> degrees high</source>
        <translation> Grad hoch</translation>
    </message>
    <message>
        <source> degrees wide</source>
        <translation> Grad breit</translation>
    </message>
    <message>
        <source> frames</source>
        <translation> Aufnahmen</translation>
    </message>
    <message>
        <source> ft</source>
        <translation> ft</translation>
    </message>
    <message>
        <source> m</source>
        <translation> m</translation>
    </message>
    <message>
        <source> min</source>
        <translation> min</translation>
    </message>
    <message>
        <source> minutes from start to start</source>
        <translation> Minuten von Beginn zu Beginn</translation>
    </message>
    <message>
        <source> mm</source>
        <translation> mm</translation>
    </message>
    <message>
        <source> pixels</source>
        <translation> Pixel</translation>
    </message>
    <message>
        <source> s</source>
        <translation> s</translation>
    </message>
    <message>
        <source> · best %1</source>
        <translation> · bestes Ergebnis %L1</translation>
    </message>
    <message>
        <source> · due again</source>
        <translation> · wieder fällig</translation>
    </message>
    <message>
        <source>"%1" is no exposure time; type one like 1/60, 0.4 or 2.</source>
        <translation>„%L1“ ist keine Belichtungszeit; etwa 1/60, 0,4 oder 2 eingeben.</translation>
    </message>
    <message>
        <source>"%1" is not understood.</source>
        <translation>„%L1“ ist nicht verständlich.</translation>
    </message>
    <message>
        <source>"camera" is the id of a profile that ships</source>
        <translation>"camera" ist die Kennung eines mitgelieferten Profils</translation>
    </message>
    <message>
        <source>"count" lies between 1 and 99</source>
        <translation>"count" liegt zwischen 1 und 99</translation>
    </message>
    <message>
        <source>"date" must be a day such as "2026-06-21"</source>
        <translation>"date" muss ein Tag wie "2026-06-21" sein</translation>
    </message>
    <message>
        <source>"direction", where the camera looks in degrees from north, is needed for light "{}"</source>
        <translation>"direction", die Blickrichtung der Kamera in Grad von Norden, ist für das Licht "{}" nötig</translation>
    </message>
    <message>
        <source>"kind" is none that is known, such as read-spot or find-faults</source>
        <translation>"kind" ist keine bekannte Art, wie etwa read-spot oder find-faults</translation>
    </message>
    <message>
        <source>"lamps" takes on, off or both, not "{}"</source>
        <translation>"lamps" kennt on, off oder both, nicht "{}"</translation>
    </message>
    <message>
        <source>"level" is 1, 2 or 3</source>
        <translation>"level" ist 1, 2 oder 3</translation>
    </message>
    <message>
        <source>"light" takes one of {}, not "{}"</source>
        <translation>"light" kennt {}, nicht "{}"</translation>
    </message>
    <message>
        <source>"limit_seconds" lies between 0 and 7200</source>
        <translation>"limit_seconds" liegt zwischen 0 und 7200</translation>
    </message>
    <message>
        <source>"low" must lie below "high"</source>
        <translation>"low" muss unter "high" liegen</translation>
    </message>
    <message>
        <source>"place" with "latitude" and "longitude" is missing</source>
        <translation>"place" mit "latitude" und "longitude" fehlt</translation>
    </message>
    <message>
        <source>"settings" must be an object of ids and choices</source>
        <translation>"settings" muss ein Objekt aus Kennungen und Antworten sein</translation>
    </message>
    <message>
        <source>"sun_altitude" takes two degrees, the lower one first</source>
        <translation>"sun_altitude" nimmt zwei Gradzahlen, die kleinere zuerst</translation>
    </message>
    <message>
        <source>"world" is the name of a world that ships, not a path</source>
        <translation>"world" ist der Name einer mitgelieferten Welt, kein Pfad</translation>
    </message>
    <message>
        <source>"{}" and "{}" show one view under two lights, and no even wall that both show.</source>
        <translation>„{}“ und „{}“ zeigen ein Motiv in zweierlei Licht und keine gleichmäßige Wand, die auf beiden zu sehen ist.</translation>
    </message>
    <message>
        <source>"{}" is far too long</source>
        <translation>"{}" ist viel zu lang</translation>
    </message>
    <message>
        <source>"{}" is missing</source>
        <translation>"{}" fehlt</translation>
    </message>
    <message>
        <source>"{}" is missing in "place"</source>
        <translation>"{}" fehlt in "place"</translation>
    </message>
    <message>
        <source>"{}" must be a list</source>
        <translation>"{}" muss eine Liste sein</translation>
    </message>
    <message>
        <source>"{}" must be a number</source>
        <translation>"{}" muss eine Zahl sein</translation>
    </message>
    <message>
        <source>"{}" must be a time such as "17:30", not "{}"</source>
        <translation>"{}" muss eine Uhrzeit wie "17:30" sein, nicht "{}"</translation>
    </message>
    <message>
        <source>"{}" must be text</source>
        <translation>"{}" muss Text sein</translation>
    </message>
    <message>
        <source>"{}" must be true or false</source>
        <translation>"{}" muss wahr oder falsch sein</translation>
    </message>
    <message>
        <source>"{}" must lie between {:g} and {:g}</source>
        <translation>"{}" muss zwischen {:Lg} und {:Lg} liegen</translation>
    </message>
    <message>
        <source>"{}" takes early or late</source>
        <translation>"{}" kennt früh oder spät</translation>
    </message>
    <message>
        <source>## The guide is not installed
The program looked for `share/mellow-lantern/guide` beside its own folder; install it again. Ctrl+K finds every command.</source>
        <translation>## Die Anleitung ist nicht installiert
Gesucht wurde `share/mellow-lantern/guide` neben dem Ordner des Programms; bitte neu installieren. Strg+K findet jeden Befehl.</translation>
    </message>
    <message>
        <source>%</source>
        <translation>%</translation>
    </message>
    <message>
        <source>%1	EV %2
</source>
        <translation>%L1	EV %L2
</translation>
    </message>
    <message>
        <source>%1
%2, level %3</source>
        <translation>%L1
%L2, Stufe %L3</translation>
    </message>
    <message>
        <source>%1
moved %2 pixels across, %3 down, turned %4°, size %5; %6 pixels are left over
%7 % clipped, %8 % left out where things moved</source>
        <translation>%L1
um %L2 Pixel quer und %L3 nach unten verschoben, %L4° gedreht, Größe %L5; %L6 Pixel bleiben übrig
%L7 % ausgefressen, %L8 % weggelassen, wo sich etwas bewegte</translation>
    </message>
    <message>
        <source>%1   of %2</source>
        <translation>%1   aus %2</translation>
    </message>
    <message>
        <source>%1  %2</source>
        <translation>%L1  %L2</translation>
    </message>
    <message>
        <source>%1 %</source>
        <translation>%L1 %</translation>
    </message>
    <message>
        <source>%1 % across, %2 % down</source>
        <translation>%L1 % von links, %L2 % von oben</translation>
    </message>
    <message>
        <source>%1 %2, %3 %4</source>
        <translation>%L1 %L2, %L3 %L4</translation>
    </message>
    <message>
        <source>%1 (%2)</source>
        <translation>%L1 (%L2)</translation>
    </message>
    <message>
        <source>%1 GB left</source>
        <translation>%L1 GB frei</translation>
    </message>
    <message>
        <source>%1 Next, the window with flash: straight at it, and so strong that its frame and blinds come out one or two stops brighter. Flash can harm photosensitive people and animals; ask first.</source>
        <translation>%1 Als Nächstes das Fenster mit Blitz: gerade darauf gerichtet und so stark, dass Rahmen und Jalousien ein bis zwei Blenden heller werden. Blitzlicht kann lichtempfindlichen Menschen und Tieren schaden; vorher fragen.</translation>
    </message>
    <message>
        <source>%1 apart</source>
        <translation>Abstand %L1</translation>
    </message>
    <message>
        <source>%1 at EV %2</source>
        <translation>%L1 bei EV %L2</translation>
    </message>
    <message>
        <source>%1 cannot be written; choose another folder.</source>
        <translation>%L1 kann nicht geschrieben werden; anderen Ordner wählen.</translation>
    </message>
    <message>
        <source>%1 cannot be written; free some space or choose another folder.</source>
        <translation>%L1 kann nicht geschrieben werden; Platz schaffen oder anderen Ordner wählen.</translation>
    </message>
    <message>
        <source>%1 cannot be written; free some space.</source>
        <translation>%L1 kann nicht geschrieben werden; Platz schaffen.</translation>
    </message>
    <message>
        <source>%1 chosen</source>
        <translation>%L1 gewählt</translation>
    </message>
    <message>
        <source>%1 faults</source>
        <translation>%L1 Fehler</translation>
    </message>
    <message>
        <source>%1 files are still to be written; you can work on another view meanwhile.</source>
        <translation>%L1 Dateien sind noch zu schreiben; inzwischen kann man an einem anderen Motiv arbeiten.</translation>
    </message>
    <message>
        <source>%1 files are written and read back.</source>
        <translation>%L1 Dateien sind geschrieben und zurückgelesen.</translation>
    </message>
    <message>
        <source>%1 files could not be written; Why says what to do, then go on.</source>
        <translation>%L1 Dateien konnten nicht geschrieben werden; „Warum“ sagt, was zu tun ist, dann geht es weiter.</translation>
    </message>
    <message>
        <source>%1 files lie in the job's folder for this view; the picture has not changed since.</source>
        <translation>%L1 Dateien dieses Motivs liegen im Ordner des Auftrags; das Bild ist seither gleich geblieben.</translation>
    </message>
    <message>
        <source>%1 files still wait to be written; at Deliver it goes on.</source>
        <translation>%L1 Dateien warten noch auf das Schreiben; bei „Liefern“ geht es weiter.</translation>
    </message>
    <message>
        <source>%1 files wait to be written; go on when you like.</source>
        <translation>%L1 Dateien warten auf das Schreiben; weiter, wann immer es passt.</translation>
    </message>
    <message>
        <source>%1 frames</source>
        <translation>%L1 Aufnahmen</translation>
    </message>
    <message>
        <source>%1 frames are on disk: %2.</source>
        <translation>%L1 Aufnahmen sind auf der Platte: %L2.</translation>
    </message>
    <message>
        <source>%1 frames are ready to combine.</source>
        <translation>%L1 Aufnahmen können vereint werden.</translation>
    </message>
    <message>
        <source>%1 frames in %2 %3, %4 s, %5 MB%6</source>
        <translation>%L1 Aufnahmen in %L2 %L3, %L4 s, %L5 MB%L6</translation>
    </message>
    <message>
        <source>%1 frames in %2 sets</source>
        <translation>%L1 Aufnahmen in %L2 Sätzen</translation>
    </message>
    <message>
        <source>%1 frames in %2%3; %4 s with timers, %5 MB.</source>
        <translation>%L1 Aufnahmen in %L2%L3; %L4 s mit Selbstauslöser, %L5 MB.</translation>
    </message>
    <message>
        <source>%1 frames in one set</source>
        <translation>%L1 Aufnahmen in einem Satz</translation>
    </message>
    <message>
        <source>%1 frames, %2 to %3</source>
        <translation>%L1 Aufnahmen, %L2 bis %L3</translation>
    </message>
    <message>
        <source>%1 frames, as combined before</source>
        <translation>%L1 Aufnahmen, wie vorher vereint</translation>
    </message>
    <message>
        <source>%1 frames, exposures not said</source>
        <translation>%L1 Aufnahmen, Belichtung nicht genannt</translation>
    </message>
    <message>
        <source>%1 holds.</source>
        <translation>%L1 hält.</translation>
    </message>
    <message>
        <source>%1 is clipped in the test frame: it reads at least EV %2. Take a darker test frame and read it again.</source>
        <translation>%L1 ist in der Probeaufnahme ausgefressen: mindestens EV %L2. Eine dunklere Probeaufnahme machen und noch einmal messen.</translation>
    </message>
    <message>
        <source>%1 is connected. Tell people near a moving slider or a flash that it will be fired from afar.</source>
        <translation>%L1 ist verbunden. Wer nahe an einem fahrenden Schlitten oder Blitz steht, muss wissen, dass aus der Ferne ausgelöst wird.</translation>
    </message>
    <message>
        <source>%1 is out of the job; Undo brings it back. Its files stay.</source>
        <translation>%L1 ist nicht mehr im Auftrag; „Rückgängig“ holt es zurück. Die Dateien bleiben.</translation>
    </message>
    <message>
        <source>%1 is the key for: %2. Take it away there first.</source>
        <translation>%L1 ist die Taste für: %L2. Zuerst dort wegnehmen.</translation>
    </message>
    <message>
        <source>%1 may clip</source>
        <translation>%L1 darf ausfressen</translation>
    </message>
    <message>
        <source>%1 minutes on site, %2 at the desk</source>
        <translation>%L1 Minuten vor Ort, %L2 am Schreibtisch</translation>
    </message>
    <message>
        <source>%1 must keep its texture</source>
        <translation>%L1 muss Zeichnung behalten</translation>
    </message>
    <message>
        <source>%1 of %2</source>
        <translation>%L1 von %L2</translation>
    </message>
    <message>
        <source>%1 of %2 frames are on disk, nothing wrong so far.</source>
        <translation>%L1 von %L2 Aufnahmen sind auf der Platte, bisher alles in Ordnung.</translation>
    </message>
    <message>
        <source>%1 of %2 frames are on disk. Frame %3: %4.</source>
        <translation>%L1 von %L2 Aufnahmen sind auf der Platte. Aufnahme %L3: %L4.</translation>
    </message>
    <message>
        <source>%1 of %2 positions</source>
        <translation>%L1 von %L2 Positionen</translation>
    </message>
    <message>
        <source>%1 of %2 s</source>
        <translation>%L1 von %L2 s</translation>
    </message>
    <message>
        <source>%1 of %2 sets. </source>
        <translation>%L1 von %L2 Sätzen. </translation>
    </message>
    <message>
        <source>%1 of %2 views are combined, %3 delivered</source>
        <translation>%L1 von %L2 Motiven sind vereint, %L3 geliefert</translation>
    </message>
    <message>
        <source>%1 of %2: %3</source>
        <translation>%L1 von %L2: %L3</translation>
    </message>
    <message>
        <source>%1 of 100 points, in %2 s.</source>
        <translation>%L1 von 100 Punkten, in %L2 s.</translation>
    </message>
    <message>
        <source>%1 of 100 points. Read why, and try again later.</source>
        <translation>%L1 von 100 Punkten. Warum, steht unten; später noch einmal versuchen.</translation>
    </message>
    <message>
        <source>%1 of them further positions of a panorama</source>
        <translation>%L1 davon weitere Positionen eines Panoramas</translation>
    </message>
    <message>
        <source>%1 of them shot again</source>
        <translation>%L1 davon noch einmal aufgenommen</translation>
    </message>
    <message>
        <source>%1 of them under another light</source>
        <translation>%1 davon in anderem Licht</translation>
    </message>
    <message>
        <source>%1 of view %2</source>
        <translation>%L1 von Motiv %L2</translation>
    </message>
    <message>
        <source>%1 other views take this finish; each keeps its own white point, shape and placement.</source>
        <translation>%L1 andere Motive bekommen diese Ausarbeitung; jedes behält Weißpunkt, Form und Lage der Töne.</translation>
    </message>
    <message>
        <source>%1 reads EV %2. Now click the other end of the light.</source>
        <translation>%L1 liest EV %L2. Jetzt das andere Ende des Lichts anklicken.</translation>
    </message>
    <message>
        <source>%1 s</source>
        <translation>%L1 s</translation>
    </message>
    <message>
        <source>%1 s, %2 MB</source>
        <translation>%L1 s, %L2 MB</translation>
    </message>
    <message>
        <source>%1 sets</source>
        <translation>%L1 Sätze</translation>
    </message>
    <message>
        <source>%1 shot again</source>
        <translation>%L1 noch einmal aufgenommen</translation>
    </message>
    <message>
        <source>%1 single frames</source>
        <translation>%L1 einzelne Aufnahmen</translation>
    </message>
    <message>
        <source>%1 stops of light are placed on %2 stops of paper; %3 % of the picture is at white, %4 % at black%5.</source>
        <translation>%L1 Blenden Licht liegen auf %L2 Blenden Papier; %L3 % des Bildes sind weiß, %L4 % schwarz%L5.</translation>
    </message>
    <message>
        <source>%1 to %2</source>
        <translation>%L1 bis %L2</translation>
    </message>
    <message>
        <source>%1 to write</source>
        <translation>%L1 zu schreiben</translation>
    </message>
    <message>
        <source>%1 too dark</source>
        <translation>%L1 zu dunkel</translation>
    </message>
    <message>
        <source>%1 views</source>
        <translation>%L1 Motive</translation>
    </message>
    <message>
        <source>%1 visits are in %2.</source>
        <translation>%L1 Termine liegen in %L2.</translation>
    </message>
    <message>
        <source>%1 visits, %2 views, %3 hours of work.</source>
        <translation>%L1 Termine, %L2 Motive, %L3 Stunden Arbeit.</translation>
    </message>
    <message>
        <source>%1%2 stop</source>
        <translation>%L1%L2 Blende</translation>
    </message>
    <message>
        <source>%1%2°</source>
        <translation>%L1%L2°</translation>
    </message>
    <message>
        <source>%1, 1 with flash</source>
        <translation>%L1, 1 mit Blitz</translation>
    </message>
    <message>
        <source>%1, again</source>
        <translation>%L1, noch einmal</translation>
    </message>
    <message>
        <source>%1, by USB</source>
        <translation>%L1, über USB</translation>
    </message>
    <message>
        <source>%1, finished alike</source>
        <translation>%L1, gleich ausgearbeitet</translation>
    </message>
    <message>
        <source>%1. From here: %2</source>
        <translation>%L1. Von hier: %L2</translation>
    </message>
    <message>
        <source>%1: %2</source>
        <translation>%L1: %L2</translation>
    </message>
    <message>
        <source>%1: %2 %, %3</source>
        <translation>%L1: %L2 %, %L3</translation>
    </message>
    <message>
        <source>%1: %2 frames</source>
        <translation>%L1: %L2 Aufnahmen</translation>
    </message>
    <message>
        <source>%1: %2 of %3 frames</source>
        <translation>%L1: %L2 von %L3 Aufnahmen</translation>
    </message>
    <message>
        <source>%1: %2.</source>
        <translation>%L1: %L2.</translation>
    </message>
    <message>
        <source>%1: frame %2</source>
        <translation>%1: Aufnahme %L2</translation>
    </message>
    <message>
        <source>%1: frame %2, %3</source>
        <translation>%1: Aufnahme %L2, %3</translation>
    </message>
    <message>
        <source>%1: not written, %2</source>
        <translation>%L1: nicht geschrieben, %L2</translation>
    </message>
    <message>
        <source>%1: one frame</source>
        <translation>%L1: eine Aufnahme</translation>
    </message>
    <message>
        <source>%1: the same under another light</source>
        <translation>%1: dasselbe in anderem Licht</translation>
    </message>
    <message>
        <source>%1; the camera looks there</source>
        <translation>%L1; dorthin blickt die Kamera</translation>
    </message>
    <message>
        <source>%1–%2</source>
        <translation>%L1–%L2</translation>
    </message>
    <message>
        <source>, </source>
        <translation>, </translation>
    </message>
    <message>
        <source>, %1 shot again</source>
        <translation>, %L1 noch einmal aufgenommen</translation>
    </message>
    <message>
        <source>, all in their light.</source>
        <translation>, alle in ihrem Licht.</translation>
    </message>
    <message>
        <source>, and nothing looks overdone</source>
        <translation>, und nichts wirkt übertrieben</translation>
    </message>
    <message>
        <source>, in its light.</source>
        <translation>, in seinem Licht.</translation>
    </message>
    <message>
        <source>, lamps off and on</source>
        <translation>, Lampen aus und an</translation>
    </message>
    <message>
        <source>, lamps on</source>
        <translation>, Lampen an</translation>
    </message>
    <message>
        <source>, looking towards {:.0f}°</source>
        <translation>, Blick nach {:.0Lf}°</translation>
    </message>
    <message>
        <source>, most between {:02d}:00 and {:02d}:00 ({} of {})</source>
        <translation>, meist zwischen {:02d}:00 und {:02d}:00 ({} von {})</translation>
    </message>
    <message>
        <source>, moved by up to {:.1f} pixels</source>
        <translation>, um bis zu {:.1Lf} Pixel verschoben</translation>
    </message>
    <message>
        <source>, none had moved</source>
        <translation>, keine hatte sich bewegt</translation>
    </message>
    <message>
        <source>, not aligned</source>
        <translation>, nicht ausgerichtet</translation>
    </message>
    <message>
        <source>, plane %1</source>
        <translation>, Ebene %L1</translation>
    </message>
    <message>
        <source>, row %1 column %2</source>
        <translation>, Reihe %L1 Spalte %L2</translation>
    </message>
    <message>
        <source>, up to {} kB</source>
        <translation>, bis {} kB</translation>
    </message>
    <message>
        <source>, {:.1f} s longer</source>
        <translation>, {:.1Lf} s länger</translation>
    </message>
    <message>
        <source>, {:.1f} s shorter</source>
        <translation>, {:.1Lf} s kürzer</translation>
    </message>
    <message>
        <source>, {:.1f} x {:.1f} cm at {} ppi</source>
        <translation>, {:.1Lf} x {:.1Lf} cm bei {} ppi</translation>
    </message>
    <message>
        <source>, {} at the desk</source>
        <translation>, {} am Schreibtisch</translation>
    </message>
    <message>
        <source>, {} planes of focus,</source>
        <translation>, {} Schärfeebenen,</translation>
    </message>
    <message>
        <source>1 : 1</source>
        <translation>1 : 1</translation>
    </message>
    <message>
        <source>1 frame</source>
        <translation>1 Aufnahme</translation>
    </message>
    <message>
        <source>1 frame fewer</source>
        <translation>1 Aufnahme weniger</translation>
    </message>
    <message>
        <source>1 frame more</source>
        <translation>1 Aufnahme mehr</translation>
    </message>
    <message>
        <source>1 frame more than needed.</source>
        <translation>1 Aufnahme mehr als nötig.</translation>
    </message>
    <message>
        <source>1 minute</source>
        <translation>1 Minute</translation>
    </message>
    <message>
        <source>1 to 64 frames can be merged</source>
        <translation>es lassen sich 1 bis 64 Aufnahmen vereinen</translation>
    </message>
    <message>
        <source>1 view at your pace: {} on site</source>
        <translation>1 Motiv in Ihrem Tempo: {} vor Ort</translation>
    </message>
    <message>
        <source>10 is acceptable, 40 excellent (ISO 12232); for new jobs</source>
        <translation>10 ist annehmbar, 40 ausgezeichnet (ISO 12232); für neue Aufträge</translation>
    </message>
    <message>
        <source>100 %</source>
        <translation>100 %</translation>
    </message>
    <message>
        <source>13 1/3 or 1/125</source>
        <translation>13 1/3 oder 1/125</translation>
    </message>
    <message>
        <source>16 : 9</source>
        <translation>16 : 9</translation>
    </message>
    <message>
        <source>2 : 1</source>
        <translation>2 : 1</translation>
    </message>
    <message>
        <source>3 : 2</source>
        <translation>3 : 2</translation>
    </message>
    <message>
        <source>4 : 3</source>
        <translation>4 : 3</translation>
    </message>
    <message>
        <source>5 : 4</source>
        <translation>5 : 4</translation>
    </message>
    <message>
        <source>: it stands at {}</source>
        <translation>: sie steht auf {}</translation>
    </message>
    <message>
        <source>; "{}" is truer: {}.</source>
        <translation>; „{}“ ist wahrer: {}.</translation>
    </message>
    <message>
        <source>; %1 megapixels together</source>
        <translation>; zusammen %L1 Megapixel</translation>
    </message>
    <message>
        <source>; %1 want a look</source>
        <translation>; %L1 brauchen einen Blick</translation>
    </message>
    <message>
        <source>; a frame of another set stands by, for places that are taken from it</source>
        <translation>; eine Aufnahme eines anderen Satzes steht bereit, für Stellen, die aus ihr genommen werden</translation>
    </message>
    <message>
        <source>; a further position of the view before it</source>
        <translation>; eine weitere Position des Motivs davor</translation>
    </message>
    <message>
        <source>; a separator</source>
        <translation>; ein Trennbild</translation>
    </message>
    <message>
        <source>; below {:.0f} % it looks flat</source>
        <translation>; unter {:.0Lf} % wirkt es flach</translation>
    </message>
    <message>
        <source>; below {:.0f} % it looks milky</source>
        <translation>; unter {:.0Lf} % wirkt es milchig</translation>
    </message>
    <message>
        <source>; not {}</source>
        <translation>; nicht {}</translation>
    </message>
    <message>
        <source>; nothing is clipped</source>
        <translation>; nichts ist ausgefressen</translation>
    </message>
    <message>
        <source>; one wants a look</source>
        <translation>; eines braucht einen Blick</translation>
    </message>
    <message>
        <source>; something moved in 1 place, taken from one frame</source>
        <translation>; an 1 Stelle bewegte sich etwas, sie kommt aus einer Aufnahme</translation>
    </message>
    <message>
        <source>; something moved in {} places, each taken from one frame</source>
        <translation>; an {} Stellen bewegte sich etwas, jede kommt aus einer Aufnahme</translation>
    </message>
    <message>
        <source>; the set before it again</source>
        <translation>; der Satz davor noch einmal</translation>
    </message>
    <message>
        <source>; the view before it under another light</source>
        <translation>; das Motiv davor in anderem Licht</translation>
    </message>
    <message>
        <source>; up to {:.{}f} is not seen</source>
        <translation>; bis {:.{}Lf} sieht man es nicht</translation>
    </message>
    <message>
        <source>; worst SNR {:.0f} instead of {:.0f}.</source>
        <translation>; schlechtester SNR {:.0Lf} statt {:.0Lf}.</translation>
    </message>
    <message>
        <source>; you did not say where</source>
        <translation>; wo, haben Sie nicht gesagt</translation>
    </message>
    <message>
        <source>; you looked for it {}</source>
        <translation>; Sie suchten es {}</translation>
    </message>
    <message>
        <source>; {:.1f} % of the picture is clipped in every frame</source>
        <translation>; {:.1Lf} % des Bildes sind in jeder Aufnahme ausgefressen</translation>
    </message>
    <message>
        <source>; {} frames of other sets stand by, for places that are taken from them</source>
        <translation>; {} Aufnahmen anderer Sätze stehen bereit, für Stellen, die aus ihnen genommen werden</translation>
    </message>
    <message>
        <source>&lt;p&gt;Choose a visit at the left. Every job you work on is written down by itself: light, plan, what was shot again and why, faults, times, finish.&lt;/p&gt;</source>
        <translation>&lt;p&gt;Links einen Termin wählen. Jeder Auftrag, an dem Sie arbeiten, wird von selbst aufgeschrieben: Licht, Plan, was noch einmal aufgenommen wurde und warum, Fehler, Zeiten, Ausarbeitung.&lt;/p&gt;</translation>
    </message>
    <message>
        <source>&lt;p&gt;Choose an exercise, or begin with the one below. A spot within a third of a stop, the smallest bracket, what is wrong with a set: what you miss here costs nothing.&lt;/p&gt;&lt;p&gt;What went wrong on your own visits comes first; what you passed comes back after a day, three days, a week.&lt;/p&gt;</source>
        <translation>&lt;p&gt;Eine Übung wählen oder mit der unten beginnen. Ein Messpunkt auf ein Drittel genau, die kleinste Reihe, was an einem Satz nicht stimmt: Was hier misslingt, kostet nichts.&lt;/p&gt;&lt;p&gt;Was bei Ihren eigenen Terminen schiefging, kommt zuerst; was Sie bestanden haben, kommt nach einem Tag, drei Tagen, einer Woche wieder.&lt;/p&gt;</translation>
    </message>
    <message>
        <source>A PDF and a picture for the phone, in the job's folder</source>
        <translation>Ein PDF und ein Bild für das Telefon, im Ordner des Auftrags</translation>
    </message>
    <message>
        <source>A PDF with every view, before and after</source>
        <translation>Ein PDF mit jedem Motiv, vorher und nachher</translation>
    </message>
    <message>
        <source>A bracket from the hand, indoors. Put right what stands wrong on the camera.</source>
        <translation>Eine Reihe aus der Hand, in einem Raum. Was an der Kamera falsch steht, richtigstellen.</translation>
    </message>
    <message>
        <source>A bracket from the tripod, indoors. Put right what stands wrong on the camera.</source>
        <translation>Eine Reihe vom Stativ, in einem Raum. Was an der Kamera falsch steht, richtigstellen.</translation>
    </message>
    <message>
        <source>A bracket needs two readings; take them at Light.</source>
        <translation>Eine Reihe braucht zwei Messungen; sie entstehen bei „Licht“.</translation>
    </message>
    <message>
        <source>A bracket of your own</source>
        <translation>Eine eigene Reihe</translation>
    </message>
    <message>
        <source>A camera in the network</source>
        <translation>Eine Kamera im Netz</translation>
    </message>
    <message>
        <source>A cloud passes</source>
        <translation>Eine Wolke zieht vorbei</translation>
    </message>
    <message>
        <source>A curtain at a window</source>
        <translation>Ein Vorhang am Fenster</translation>
    </message>
    <message>
        <source>A dark room, a bright lake, and a camera that costs nothing</source>
        <translation>Ein dunkler Raum, ein heller See und eine Kamera, die nichts kostet</translation>
    </message>
    <message>
        <source>A double click opens a view; Ctrl chooses several.</source>
        <translation>Ein Doppelklick öffnet ein Motiv; Strg wählt mehrere.</translation>
    </message>
    <message>
        <source>A fifth</source>
        <translation>Ein Fünftel</translation>
    </message>
    <message>
        <source>A file in `{}` is damaged ({}); put it back from a copy.</source>
        <translation>Eine Datei in `{}` ist beschädigt ({}); aus einer Kopie zurückholen.</translation>
    </message>
    <message>
        <source>A finger on the button moves the camera.</source>
        <translation>Ein Finger auf dem Auslöser bewegt die Kamera.</translation>
    </message>
    <message>
        <source>A folder of bracketed frames becomes a job with one view for each set found in it. Your files are never changed.</source>
        <translation>Aus einem Ordner mit Belichtungsreihen wird ein Auftrag mit einem Motiv für jeden Satz darin. Ihre Dateien werden nie verändert.</translation>
    </message>
    <message>
        <source>A frame of another set of this view stands by: paint from it, or click on a place that moved, and that place comes from it</source>
        <translation>Eine Aufnahme eines anderen Satzes dieser Ansicht steht bereit: Malen Sie aus ihr, oder klicken Sie auf eine Stelle, die sich bewegt hat, und diese Stelle kommt aus ihr</translation>
    </message>
    <message>
        <source>A further view</source>
        <translation>Ein weiteres Motiv</translation>
    </message>
    <message>
        <source>A further view...</source>
        <translation>Ein weiteres Motiv...</translation>
    </message>
    <message>
        <source>A hand before the lens: the next frames are another set.</source>
        <translation>Eine Hand vor dem Objektiv: Die nächsten Aufnahmen sind ein anderer Satz.</translation>
    </message>
    <message>
        <source>A job folder, or frames and folders of frames.</source>
        <translation>Ein Auftragsordner oder Aufnahmen und Ordner mit Aufnahmen.</translation>
    </message>
    <message>
        <source>A job keeps at least one view.</source>
        <translation>Ein Auftrag behält mindestens ein Motiv.</translation>
    </message>
    <message>
        <source>A latitude lies between 90 degrees south and 90 north.</source>
        <translation>Eine geografische Breite liegt zwischen 90 Grad Süd und 90 Nord.</translation>
    </message>
    <message>
        <source>A little too much</source>
        <translation>Ein wenig zu viel</translation>
    </message>
    <message>
        <source>A longitude lies between 180 degrees west and 180 east.</source>
        <translation>Eine geografische Länge liegt zwischen 180 Grad West und 180 Ost.</translation>
    </message>
    <message>
        <source>A look of your own</source>
        <translation>Ein eigener Stil</translation>
    </message>
    <message>
        <source>A look of your own, among the looks at Finish</source>
        <translation>Ein eigener Stil, unter den Stilen beim Ausarbeiten</translation>
    </message>
    <message>
        <source>A new set as planned</source>
        <translation>Ein neuer Satz nach Plan</translation>
    </message>
    <message>
        <source>A picture takes you {:.1f} minutes at the desk, half of them between {:.1f} and {:.1f} ({} pictures).</source>
        <translation>Ein Bild braucht bei Ihnen {:.1Lf} Minuten am Schreibtisch, die Hälfte zwischen {:.1Lf} und {:.1Lf} ({} Bilder).</translation>
    </message>
    <message>
        <source>A plain room</source>
        <translation>Ein schlichter Raum</translation>
    </message>
    <message>
        <source>A pocket camera and a bright lake</source>
        <translation>Eine Taschenkamera und ein heller See</translation>
    </message>
    <message>
        <source>A quarter</source>
        <translation>Ein Viertel</translation>
    </message>
    <message>
        <source>A set may last</source>
        <translation>Ein Satz darf dauern</translation>
    </message>
    <message>
        <source>A tenth</source>
        <translation>Ein Zehntel</translation>
    </message>
    <message>
        <source>A third</source>
        <translation>Ein Drittel</translation>
    </message>
    <message>
        <source>A view of its own</source>
        <translation>Ein eigenes Motiv</translation>
    </message>
    <message>
        <source>A view of the kind {} takes you {:.1f} minutes on site, half of them between {:.1f} and {:.1f} ({} views).</source>
        <translation>Ein Motiv der Art {} braucht bei Ihnen {:.1Lf} Minuten vor Ort, die Hälfte zwischen {:.1Lf} und {:.1Lf} ({} Motive).</translation>
    </message>
    <message>
        <source>A visit ends after it began, and within the next day.</source>
        <translation>Ein Termin endet nach seinem Beginn und spätestens am nächsten Tag.</translation>
    </message>
    <message>
        <source>A whole morning</source>
        <translation>Ein ganzer Vormittag</translation>
    </message>
    <message>
        <source>AVIF for HDR screens</source>
        <translation>AVIF für HDR-Bildschirme</translation>
    </message>
    <message>
        <source>Add</source>
        <translation>Hinzufügen</translation>
    </message>
    <message>
        <source>Add a view</source>
        <translation>Motiv hinzufügen</translation>
    </message>
    <message>
        <source>Add a view...</source>
        <translation>Motiv hinzufügen...</translation>
    </message>
    <message>
        <source>Add a way</source>
        <translation>Weise hinzufügen</translation>
    </message>
    <message>
        <source>Address of the camera</source>
        <translation>Adresse der Kamera</translation>
    </message>
    <message>
        <source>After frame {} the aperture went to {} within the bracket: fix the aperture and shoot the set again.</source>
        <translation>Nach Aufnahme {} ging die Blende innerhalb der Reihe auf {}: Blende festhalten und den Satz neu aufnehmen.</translation>
    </message>
    <message>
        <source>After frame {} the exposure stays at {}: the camera has left its bracket. Set it again and shoot the set again.</source>
        <translation>Nach Aufnahme {} bleibt die Belichtung bei {}: Die Kamera hat ihre Reihe verlassen. Neu einstellen und den Satz neu aufnehmen.</translation>
    </message>
    <message>
        <source>After something took longer: what is left into the light that is left</source>
        <translation>Wenn etwas länger dauerte: was übrig ist, in das Licht, das übrig ist</translation>
    </message>
    <message>
        <source>Align</source>
        <translation>Ausrichten</translation>
    </message>
    <message>
        <source>Aligned as needed</source>
        <translation>So weit nötig ausgerichtet</translation>
    </message>
    <message>
        <source>Alignment and movement</source>
        <translation>Ausrichten und Bewegung</translation>
    </message>
    <message>
        <source>All as planned, kept apart, each judged. The first begins now. Stop ends it; a camera left alone on a way can be fallen over.</source>
        <translation>Alle nach Plan, getrennt abgelegt, jeder geprüft. Der erste beginnt jetzt. „Anhalten“ beendet es; über eine unbeaufsichtigte Kamera auf einem Weg kann jemand fallen.</translation>
    </message>
    <message>
        <source>All files belong to one position (`{}`); to combine them use `combine`.</source>
        <translation>Alle Dateien gehören zu einer Position (`{}`); zum Vereinen dient `combine`.</translation>
    </message>
    <message>
        <source>All files look like one set of frames (`{}`), to be combined by `combine`; as positions of their own they cannot be joined: {}</source>
        <translation>Alle Dateien sehen wie ein Satz aus (`{}`), den `combine` vereint; als eigene Positionen lassen sie sich nicht verbinden: {}</translation>
    </message>
    <message>
        <source>All files show one view (`{}`); to combine its exposures use `combine`.</source>
        <translation>Alle Dateien zeigen ein Motiv (`{}`); seine Belichtungen vereint `combine`.</translation>
    </message>
    <message>
        <source>All is delivered</source>
        <translation>Alles ist geliefert</translation>
    </message>
    <message>
        <source>All keys as they were</source>
        <translation>Alle Tasten wie am Anfang</translation>
    </message>
    <message>
        <source>All lines straight</source>
        <translation>Alle Linien gerade</translation>
    </message>
    <message>
        <source>All positions are on disk.</source>
        <translation>Alle Positionen sind auf der Platte.</translation>
    </message>
    <message>
        <source>All positions joined</source>
        <translation>Positionen verbunden</translation>
    </message>
    <message>
        <source>All settings are right.</source>
        <translation>Alle Einstellungen stimmen.</translation>
    </message>
    <message>
        <source>All their light</source>
        <translation>All ihr Licht</translation>
    </message>
    <message>
        <source>All views</source>
        <translation>Alle Motive</translation>
    </message>
    <message>
        <source>All views are done.</source>
        <translation>Alle Motive sind fertig.</translation>
    </message>
    <message>
        <source>All views side by side</source>
        <translation>Alle Motive nebeneinander</translation>
    </message>
    <message>
        <source>All visits, and what they have taught (L)</source>
        <translation>Alle Termine und was sie gelehrt haben (L)</translation>
    </message>
    <message>
        <source>All ways</source>
        <translation>Alle Weisen</translation>
    </message>
    <message>
        <source>All windows, found from their light</source>
        <translation>Alle Fenster, an ihrem Licht erkannt</translation>
    </message>
    <message>
        <source>An area of your own</source>
        <translation>Ein eigener Bereich</translation>
    </message>
    <message>
        <source>An iCalendar file with an event for each view</source>
        <translation>Eine iCalendar-Datei mit einem Ereignis für jedes Motiv</translation>
    </message>
    <message>
        <source>Another language, place or size of text counts from the next start on; jobs stay where they are.</source>
        <translation>Sprache, Ort und Textgröße gelten ab dem nächsten Start; Aufträge bleiben, wo sie sind.</translation>
    </message>
    <message>
        <source>Another program holds the camera; close it there (in the file manager: eject the camera), then connect it again{}.</source>
        <translation>Ein anderes Programm hält die Kamera; dort schließen (in der Dateiverwaltung: Kamera auswerfen) und noch einmal verbinden{}.</translation>
    </message>
    <message>
        <source>Another window works on this job{}, so it can only be looked at here; close the other one and this one goes on by itself.</source>
        <translation>Ein anderes Fenster arbeitet an diesem Auftrag{}, hier kann er nur angesehen werden; wird das andere geschlossen, geht es hier von selbst weiter.</translation>
    </message>
    <message>
        <source>Apart</source>
        <translation>Abstand</translation>
    </message>
    <message>
        <source>Aperture</source>
        <translation>Blende</translation>
    </message>
    <message>
        <source>Aperture and ISO fixed, white balance fixed, focus by hand</source>
        <translation>Blende und ISO fest, Weißabgleich fest, von Hand scharfgestellt</translation>
    </message>
    <message>
        <source>Aperture changes</source>
        <translation>Die Blende ändert sich</translation>
    </message>
    <message>
        <source>Aperture priority, {} EV</source>
        <translation>Zeitautomatik, {} EV</translation>
    </message>
    <message>
        <source>Areas</source>
        <translation>Bereiche</translation>
    </message>
    <message>
        <source>As SVG...</source>
        <translation>Als SVG...</translation>
    </message>
    <message>
        <source>As few as possible</source>
        <translation>So wenige wie möglich</translation>
    </message>
    <message>
        <source>As it was shot</source>
        <translation>Wie aufgenommen</translation>
    </message>
    <message>
        <source>As light as metered</source>
        <translation>So hell wie gemessen</translation>
    </message>
    <message>
        <source>As many frames</source>
        <translation>Gleich viele Aufnahmen</translation>
    </message>
    <message>
        <source>As metered</source>
        <translation>Wie gemessen</translation>
    </message>
    <message>
        <source>As much as was measured at each tone; edges stay</source>
        <translation>So viel, wie bei jedem Ton gemessen wurde; Kanten bleiben</translation>
    </message>
    <message>
        <source>As one exposure would show it, simulated from the combined light</source>
        <translation>Wie eine einzelne Belichtung es zeigen würde, aus dem vereinten Licht nachgebildet</translation>
    </message>
    <message>
        <source>As the angle asks</source>
        <translation>Nach Bildwinkel</translation>
    </message>
    <message>
        <source>At Finish: next starting point (as metered, lighter, deeper)</source>
        <translation>Beim Ausarbeiten: nächster Ausgangspunkt (wie gemessen, heller, tiefer)</translation>
    </message>
    <message>
        <source>At Finish: put the worst finding right</source>
        <translation>Beim Ausarbeiten: den schwersten Befund richten</translation>
    </message>
    <message>
        <source>At Finish: show what is at white or black</source>
        <translation>Beim Ausarbeiten: zeigen, was weiß oder schwarz ist</translation>
    </message>
    <message>
        <source>At Finish: take the white that was found</source>
        <translation>Beim Ausarbeiten: das gefundene Weiß nehmen</translation>
    </message>
    <message>
        <source>At minute 0 the sky reads EV {:.1f}; it loses {:.2f} stop a minute. What the lamps light reads EV {:.1f}.</source>
        <translation>In Minute 0 misst der Himmel EV {:.1Lf}; er verliert {:.2Lf} Blende je Minute. Was die Lampen beleuchten, misst EV {:.1Lf}.</translation>
    </message>
    <message>
        <source>At {} diffraction spreads a point over {:.1f} pixels ({:.0f} um); f/8 is sharper.</source>
        <translation>Bei {} verteilt die Beugung einen Punkt auf {:.1Lf} Pixel ({:.0Lf} um); f/8 ist schärfer.</translation>
    </message>
    <message>
        <source>Autofocus left on</source>
        <translation>Autofokus angelassen</translation>
    </message>
    <message>
        <source>Autofocus may hunt between frames: focus once, then switch to manual.</source>
        <translation>Der Autofokus kann zwischen den Aufnahmen suchen: einmal scharfstellen, dann auf manuell.</translation>
    </message>
    <message>
        <source>Automatic ISO left on</source>
        <translation>ISO-Automatik angelassen</translation>
    </message>
    <message>
        <source>Automatic ISO, automatic white balance and flash off</source>
        <translation>ISO-Automatik, automatischer Weißabgleich und Blitz aus</translation>
    </message>
    <message>
        <source>Automatic balance may turn between frames.</source>
        <translation>Der automatische Abgleich kann zwischen den Aufnahmen wechseln.</translation>
    </message>
    <message>
        <source>Automatic white balance left on</source>
        <translation>Automatischer Weißabgleich angelassen</translation>
    </message>
    <message>
        <source>Back to the list</source>
        <translation>Zurück zur Liste</translation>
    </message>
    <message>
        <source>Back to the smallest that covers</source>
        <translation>Zurück zum kleinsten Satz, der reicht</translation>
    </message>
    <message>
        <source>Balance window and room</source>
        <translation>Fenster und Raum</translation>
    </message>
    <message>
        <source>Base ISO</source>
        <translation>Grund-ISO</translation>
    </message>
    <message>
        <source>Batteries charged, cards empty, lens and sensor clean</source>
        <translation>Akkus geladen, Karten leer, Objektiv und Sensor sauber</translation>
    </message>
    <message>
        <source>Battery %1 %</source>
        <translation>Akku %L1 %</translation>
    </message>
    <message>
        <source>Before the first frame</source>
        <translation>Vor der ersten Aufnahme</translation>
    </message>
    <message>
        <source>Before the first frame, and after the last</source>
        <translation>Vor der ersten und nach der letzten Aufnahme</translation>
    </message>
    <message>
        <source>Begin</source>
        <translation>Beginnen</translation>
    </message>
    <message>
        <source>Begin a set here</source>
        <translation>Hier einen Satz beginnen</translation>
    </message>
    <message>
        <source>Begin {} earlier, at {}.</source>
        <translation>{} früher beginnen, um {}.</translation>
    </message>
    <message>
        <source>Being shot... </source>
        <translation>Wird aufgenommen... </translation>
    </message>
    <message>
        <source>Being written</source>
        <translation>Wird geschrieben</translation>
    </message>
    <message>
        <source>Bent lines</source>
        <translation>Krumme Linien</translation>
    </message>
    <message>
        <source>Bent lines, coloured edges and dark corners as the profile of this lens says</source>
        <translation>Krumme Linien, farbige Kanten und dunkle Ecken nach dem Profil dieses Objektivs</translation>
    </message>
    <message>
        <source>Between light and shade</source>
        <translation>Zwischen Licht und Schatten</translation>
    </message>
    <message>
        <source>Between your frames {} fall into a gap.</source>
        <translation>Zwischen Ihren Aufnahmen fallen {} in eine Lücke.</translation>
    </message>
    <message>
        <source>Blend frames</source>
        <translation>Aufnahmen überblenden</translation>
    </message>
    <message>
        <source>Blended as pictures</source>
        <translation>Als Bilder überblendet</translation>
    </message>
    <message>
        <source>Blue fringes</source>
        <translation>Blaue Säume</translation>
    </message>
    <message>
        <source>Blue hour, lamps on</source>
        <translation>Blaue Stunde, Lampen an</translation>
    </message>
    <message>
        <source>Boats under sail</source>
        <translation>Segelboote</translation>
    </message>
    <message>
        <source>Borrow from another set</source>
        <translation>Aus einem anderen Satz leihen</translation>
    </message>
    <message>
        <source>Both in degrees</source>
        <translation>Beides in Grad</translation>
    </message>
    <message>
        <source>Bracket</source>
        <translation>Reihe</translation>
    </message>
    <message>
        <source>Bracket counts</source>
        <translation>Aufnahmen je Reihe</translation>
    </message>
    <message>
        <source>Bracket set, self-timer or remote, stabiliser off on a tripod</source>
        <translation>Reihe eingestellt, Selbstauslöser oder Fernauslöser, Stabilisator auf dem Stativ aus</translation>
    </message>
    <message>
        <source>Bracket steps, stops</source>
        <translation>Schritte der Reihe, Blenden</translation>
    </message>
    <message>
        <source>Bracket the light, combine it, keep it natural.</source>
        <translation>Das Licht in Belichtungen fassen, vereinen, natürlich lassen.</translation>
    </message>
    <message>
        <source>Bracketing</source>
        <translation>Reihenautomatik</translation>
    </message>
    <message>
        <source>Bracketing resets itself</source>
        <translation>Die Reihe setzt sich zurück</translation>
    </message>
    <message>
        <source>Branches in wind</source>
        <translation>Äste im Wind</translation>
    </message>
    <message>
        <source>Breaking waves</source>
        <translation>Brechende Wellen</translation>
    </message>
    <message>
        <source>Bright, middle, dark</source>
        <translation>Hell, mittel, dunkel</translation>
    </message>
    <message>
        <source>Brighten the finder by a stop (]): look into the corners</source>
        <translation>Den Sucher um eine Blende heller (]): in die Ecken schauen</translation>
    </message>
    <message>
        <source>Brighter</source>
        <translation>Heller</translation>
    </message>
    <message>
        <source>Brightest and darkest spot read</source>
        <translation>Hellster und dunkelster Punkt gemessen</translation>
    </message>
    <message>
        <source>Brightest area</source>
        <translation>Hellster Bereich</translation>
    </message>
    <message>
        <source>Brightness on paper</source>
        <translation>Helligkeit auf Papier</translation>
    </message>
    <message>
        <source>Bring the lights down</source>
        <translation>Lichter zurücknehmen</translation>
    </message>
    <message>
        <source>Bring the view back (Ctrl+Z)</source>
        <translation>Das Motiv zurückholen (Strg+Z)</translation>
    </message>
    <message>
        <source>Brush</source>
        <translation>Pinsel</translation>
    </message>
    <message>
        <source>Burst</source>
        <translation>Serie</translation>
    </message>
    <message>
        <source>Burst, fastest</source>
        <translation>Serie, schnellste</translation>
    </message>
    <message>
        <source>Cable comes off</source>
        <translation>Das Kabel löst sich</translation>
    </message>
    <message>
        <source>Calendar</source>
        <translation>Kalender</translation>
    </message>
    <message>
        <source>Calendar...</source>
        <translation>Kalender...</translation>
    </message>
    <message>
        <source>Calm the colour</source>
        <translation>Farbe beruhigen</translation>
    </message>
    <message>
        <source>Calm the darkest colours</source>
        <translation>Die dunkelsten Farben beruhigen</translation>
    </message>
    <message>
        <source>Camera</source>
        <translation>Kamera</translation>
    </message>
    <message>
        <source>Camera at %1</source>
        <translation>Kamera bei %L1</translation>
    </message>
    <message>
        <source>Camera at an address...</source>
        <translation>Kamera an einer Adresse...</translation>
    </message>
    <message>
        <source>Camera profile</source>
        <translation>Kameraprofil</translation>
    </message>
    <message>
        <source>Camera turned to portrait</source>
        <translation>Kamera im Hochformat</translation>
    </message>
    <message>
        <source>Camera: {}.</source>
        <translation>Kamera: {}.</translation>
    </message>
    <message>
        <source>Camera: {}. It brackets {} frames, {} stops apart.</source>
        <translation>Kamera: {}. Ihre Reihen haben {} Aufnahmen im Abstand von {} Blenden.</translation>
    </message>
    <message>
        <source>Cameras</source>
        <translation>Kameras</translation>
    </message>
    <message>
        <source>Cameras are driven by libgphoto2, which is not on this system; install the package libgphoto2-6. The simulated camera and the watched folder work without it.</source>
        <translation>Kameras werden über libgphoto2 gesteuert, das auf diesem System fehlt; das Paket libgphoto2-6 installieren. Die nachgebildete Kamera und der beobachtete Ordner gehen auch ohne.</translation>
    </message>
    <message>
        <source>Cameras of your own...</source>
        <translation>Eigene Kameras...</translation>
    </message>
    <message>
        <source>Can go: {}.</source>
        <translation>Kann weg: {}.</translation>
    </message>
    <message>
        <source>Cancel</source>
        <translation>Abbrechen</translation>
    </message>
    <message>
        <source>Card full</source>
        <translation>Karte voll</translation>
    </message>
    <message>
        <source>Charts</source>
        <translation>Diagramme</translation>
    </message>
    <message>
        <source>Check the darkest frame ({}) for clipping, the brightest ({}) for the deep shadow</source>
        <translation>Die dunkelste Aufnahme ({}) auf ausgefressene Stellen prüfen, die hellste ({}) auf die tiefen Schatten</translation>
    </message>
    <message>
        <source>Choose a camera</source>
        <translation>Kamera wählen</translation>
    </message>
    <message>
        <source>Choose by hand</source>
        <translation>Von Hand wählen</translation>
    </message>
    <message>
        <source>Choose frames of your own...</source>
        <translation>Eigene Aufnahmen wählen...</translation>
    </message>
    <message>
        <source>Choose the bracket</source>
        <translation>Die Reihe wählen</translation>
    </message>
    <message>
        <source>Choose the smallest bracket that covers this light: how many frames, how many stops apart, and the time of the middle one.</source>
        <translation>Die kleinste Reihe wählen, die dieses Licht fasst: wie viele Aufnahmen, in wie vielen Blenden Abstand, und die Zeit der mittleren.</translation>
    </message>
    <message>
        <source>Choose what to write; nothing that is there already is overwritten.</source>
        <translation>Wählen, was geschrieben wird; nichts Vorhandenes wird überschrieben.</translation>
    </message>
    <message>
        <source>Choose...</source>
        <translation>Wählen...</translation>
    </message>
    <message>
        <source>Clean up</source>
        <translation>Säubern</translation>
    </message>
    <message>
        <source>Clear the view</source>
        <translation>Ausblick klären</translation>
    </message>
    <message>
        <source>Click a key and press another; Backspace takes it away.</source>
        <translation>Eine Taste anklicken und eine andere drücken; Rücktaste nimmt sie weg.</translation>
    </message>
    <message>
        <source>Click a small thing, or drag as far as it reaches: what lies beside it covers it</source>
        <translation>Etwas Kleines anklicken oder so weit ziehen, wie es reicht: Was daneben liegt, deckt es zu</translation>
    </message>
    <message>
        <source>Click something that is white or grey in life</source>
        <translation>Etwas anklicken, das in Wirklichkeit weiß oder grau ist</translation>
    </message>
    <message>
        <source>Click something white in the chosen area: the area gets a white point of its own</source>
        <translation>Etwas Weißes im gewählten Bereich anklicken: Der Bereich bekommt einen eigenen Weißpunkt</translation>
    </message>
    <message>
        <source>Click the brightest thing that must keep its texture, then the darkest.</source>
        <translation>Das Hellste anklicken, das Zeichnung behalten muss, dann das Dunkelste.</translation>
    </message>
    <message>
        <source>Click the darkest corner that must show something.</source>
        <translation>Die dunkelste Ecke anklicken, die etwas zeigen muss.</translation>
    </message>
    <message>
        <source>Click the four corners of something that is a rectangle in life</source>
        <translation>Die vier Ecken von etwas anklicken, das in Wirklichkeit ein Rechteck ist</translation>
    </message>
    <message>
        <source>Click the sky in the window: the brightest thing that must keep texture.</source>
        <translation>Den Himmel im Fenster anklicken: das Hellste, das Zeichnung behalten muss.</translation>
    </message>
    <message>
        <source>Close</source>
        <translation>Schließen</translation>
    </message>
    <message>
        <source>Clouds</source>
        <translation>Wolken</translation>
    </message>
    <message>
        <source>Colour</source>
        <translation>Farbe</translation>
    </message>
    <message>
        <source>Colours on screen</source>
        <translation>Farben am Bildschirm</translation>
    </message>
    <message>
        <source>Column</source>
        <translation>Spalte</translation>
    </message>
    <message>
        <source>Combine</source>
        <translation>Vereinen</translation>
    </message>
    <message>
        <source>Combine again</source>
        <translation>Neu vereinen</translation>
    </message>
    <message>
        <source>Combine again, stricter on movement</source>
        <translation>Neu vereinen, strenger bei Bewegung</translation>
    </message>
    <message>
        <source>Combine all the same</source>
        <translation>Trotzdem vereinen</translation>
    </message>
    <message>
        <source>Combine every view that is not combined yet</source>
        <translation>Jedes Motiv vereinen, das noch nicht vereint ist</translation>
    </message>
    <message>
        <source>Combine no further views</source>
        <translation>Keine weiteren Motive vereinen</translation>
    </message>
    <message>
        <source>Combine the frames.</source>
        <translation>Die Aufnahmen vereinen.</translation>
    </message>
    <message>
        <source>Combine the positions</source>
        <translation>Die Positionen vereinen</translation>
    </message>
    <message>
        <source>Combined</source>
        <translation>Vereint</translation>
    </message>
    <message>
        <source>Combined as</source>
        <translation>Vereint als</translation>
    </message>
    <message>
        <source>Commands</source>
        <translation>Befehle</translation>
    </message>
    <message>
        <source>Commands and keys</source>
        <translation>Befehle und Tasten</translation>
    </message>
    <message>
        <source>Commands and keys...</source>
        <translation>Befehle und Tasten...</translation>
    </message>
    <message>
        <source>Compare with</source>
        <translation>Vergleichen mit</translation>
    </message>
    <message>
        <source>Connect</source>
        <translation>Verbinden</translation>
    </message>
    <message>
        <source>Connect the camera</source>
        <translation>Kamera verbinden</translation>
    </message>
    <message>
        <source>Connected</source>
        <translation>Verbunden</translation>
    </message>
    <message>
        <source>Contrast</source>
        <translation>Kontrast</translation>
    </message>
    <message>
        <source>Copy as a list</source>
        <translation>Als Liste kopieren</translation>
    </message>
    <message>
        <source>Copy as a picture</source>
        <translation>Als Bild kopieren</translation>
    </message>
    <message>
        <source>Copy the Light Ladder as a picture</source>
        <translation>Die Lichtleiter als Bild kopieren</translation>
    </message>
    <message>
        <source>Copy the picture</source>
        <translation>Das Bild kopieren</translation>
    </message>
    <message>
        <source>Copy the verdict and its figures</source>
        <translation>Das Urteil mit seinen Zahlen kopieren</translation>
    </message>
    <message>
        <source>Cover a spot</source>
        <translation>Stelle zudecken</translation>
    </message>
    <message>
        <source>Covers</source>
        <translation>Fasst</translation>
    </message>
    <message>
        <source>Covers what a sphere shows of its own stand, so far from straight down</source>
        <translation>Deckt zu, was eine Kugel vom eigenen Stativ zeigt, so weit vom Lot nach unten</translation>
    </message>
    <message>
        <source>Creator</source>
        <translation>Urheber</translation>
    </message>
    <message>
        <source>Cut</source>
        <translation>Beschneiden</translation>
    </message>
    <message>
        <source>Dark corners</source>
        <translation>Dunkle Ecken</translation>
    </message>
    <message>
        <source>Darken the finder by a stop ([): look into the sky</source>
        <translation>Den Sucher um eine Blende dunkler ([): in den Himmel schauen</translation>
    </message>
    <message>
        <source>Darker</source>
        <translation>Dunkler</translation>
    </message>
    <message>
        <source>Darker only</source>
        <translation>Nur dunkler</translation>
    </message>
    <message>
        <source>Darker where painted</source>
        <translation>Dunkler, wo gemalt</translation>
    </message>
    <message>
        <source>Darkest area</source>
        <translation>Dunkelster Bereich</translation>
    </message>
    <message>
        <source>Darkest frame not clipped, brightest frame shows the shadows, all sharp</source>
        <translation>Dunkelste Aufnahme nicht ausgefressen, hellste zeigt die Schatten, alle scharf</translation>
    </message>
    <message>
        <source>Darkest that must keep texture: EV {:.1f}. Brightest: EV {:.1f} (at ISO 100).</source>
        <translation>Dunkelstes, das Zeichnung behalten muss: EV {:.1Lf}. Hellstes: EV {:.1Lf} (bei ISO 100).</translation>
    </message>
    <message>
        <source>Day</source>
        <translation>Tag</translation>
    </message>
    <message>
        <source>Daylight, fixed</source>
        <translation>Tageslicht, fest</translation>
    </message>
    <message>
        <source>Deeper</source>
        <translation>Tiefer</translation>
    </message>
    <message>
        <source>Degrees, such as 46.8, 46 48 N or -33.9</source>
        <translation>Grad, etwa 46,8, 46 48 N oder -33,9</translation>
    </message>
    <message>
        <source>Degrees, such as 9.5, 9 30 E or -71.2</source>
        <translation>Grad, etwa 9,5, 9 30 E oder -71,2</translation>
    </message>
    <message>
        <source>Deliver</source>
        <translation>Liefern</translation>
    </message>
    <message>
        <source>Deliver all views</source>
        <translation>Alle Motive liefern</translation>
    </message>
    <message>
        <source>Deliver it as a picture for the web.</source>
        <translation>Als Bild für das Netz liefern.</translation>
    </message>
    <message>
        <source>Deliver the chosen</source>
        <translation>Die gewählten liefern</translation>
    </message>
    <message>
        <source>Delivered</source>
        <translation>Geliefert</translation>
    </message>
    <message>
        <source>Delivered so far</source>
        <translation>Bisher geliefert</translation>
    </message>
    <message>
        <source>Depth of colour</source>
        <translation>Tiefe der Farben</translation>
    </message>
    <message>
        <source>Depth of pale colours</source>
        <translation>Tiefe der blassen Farben</translation>
    </message>
    <message>
        <source>Distances in</source>
        <translation>Entfernungen in</translation>
    </message>
    <message>
        <source>Done</source>
        <translation>Fertig</translation>
    </message>
    <message>
        <source>Done: a finished picture of your own. Go on with the exercises, or with frames of yours.</source>
        <translation>Geschafft: ein eigenes fertiges Bild. Weiter mit den Übungen oder mit eigenen Aufnahmen.</translation>
    </message>
    <message>
        <source>Drag a colour</source>
        <translation>Farbe ziehen</translation>
    </message>
    <message>
        <source>Drag a colour in the picture: across for depth, up and down for lightness</source>
        <translation>Eine Farbe im Bild ziehen: quer für die Tiefe, auf und ab für die Helligkeit</translation>
    </message>
    <message>
        <source>Drag from the middle of an area</source>
        <translation>Aus der Mitte eines Bereichs ziehen</translation>
    </message>
    <message>
        <source>Drag from where it is full to where it ends</source>
        <translation>Von da, wo es voll wirkt, bis dahin ziehen, wo es endet</translation>
    </message>
    <message>
        <source>Drag or use the arrow keys to turn, the wheel or plus and minus to go closer.</source>
        <translation>Ziehen oder Pfeiltasten zum Drehen, Mausrad oder Plus und Minus zum Nähergehen.</translation>
    </message>
    <message>
        <source>Drag the part to keep</source>
        <translation>Den Teil aufziehen, der bleibt</translation>
    </message>
    <message>
        <source>Drag to change the order (Alt+Up, Alt+Down); Delete takes a view out</source>
        <translation>Ziehen ändert die Reihenfolge (Alt+Auf, Alt+Ab); Entf nimmt ein Motiv heraus</translation>
    </message>
    <message>
        <source>Drag to turn, wheel to go closer</source>
        <translation>Ziehen dreht, das Mausrad geht näher</translation>
    </message>
    <message>
        <source>Draw a line</source>
        <translation>Linie ziehen</translation>
    </message>
    <message>
        <source>Draw along a line that is plumb or level in life</source>
        <translation>Entlang einer Linie ziehen, die in Wirklichkeit lot- oder waagerecht ist</translation>
    </message>
    <message>
        <source>Draw the joined picture</source>
        <translation>Das verbundene Bild zeichnen</translation>
    </message>
    <message>
        <source>Drive</source>
        <translation>Betriebsart</translation>
    </message>
    <message>
        <source>Drop a folder of bracketed frames here, or a whole card.</source>
        <translation>Einen Ordner mit Belichtungsreihen hierher ziehen oder eine ganze Karte.</translation>
    </message>
    <message>
        <source>Drop a folder of bracketed frames here, or open the demo.</source>
        <translation>Einen Ordner mit Belichtungsreihen hierher ziehen oder das Beispiel öffnen.</translation>
    </message>
    <message>
        <source>Duplicate</source>
        <translation>Verdoppeln</translation>
    </message>
    <message>
        <source>Duplicate the view</source>
        <translation>Das Motiv verdoppeln</translation>
    </message>
    <message>
        <source>Dusk by eye</source>
        <translation>Dämmerung nach Augenmaß</translation>
    </message>
    <message>
        <source>Dusk or paper</source>
        <translation>Dämmerung oder Papier</translation>
    </message>
    <message>
        <source>Dusk: dark grey</source>
        <translation>Dämmerung: dunkelgrau</translation>
    </message>
    <message>
        <source>E</source>
        <translation>O</translation>
    </message>
    <message>
        <source>EV </source>
        <translation>EV </translation>
    </message>
    <message>
        <source>EV %1</source>
        <translation>EV %L1</translation>
    </message>
    <message>
        <source>EV %1	on paper %2 stops
</source>
        <translation>EV %L1	auf Papier %L2 Blenden
</translation>
    </message>
    <message>
        <source>EV %1 to %2, %3 stops</source>
        <translation>EV %L1 bis %L2, %L3 Blenden</translation>
    </message>
    <message>
        <source>EV of spot %1</source>
        <translation>EV von Messpunkt %L1</translation>
    </message>
    <message>
        <source>EV {:.1f} to {:.1f}, {:.1f} stops</source>
        <translation>EV {:.1Lf} bis {:.1Lf}, {:.1Lf} Blenden</translation>
    </message>
    <message>
        <source>Each place is taken from the frames that recorded it best, and what moved from one of them, so that nobody stands there twice.</source>
        <translation>Jede Stelle kommt aus den Aufnahmen, die sie am besten zeigen, und was sich bewegte aus einer davon, damit niemand doppelt steht.</translation>
    </message>
    <message>
        <source>Edge</source>
        <translation>Rand</translation>
    </message>
    <message>
        <source>Edges carry rims of {:.2f} stop{}.</source>
        <translation>Kanten tragen Säume von {:.2Lf} Blende{}.</translation>
    </message>
    <message>
        <source>Eight</source>
        <translation>Acht</translation>
    </message>
    <message>
        <source>Elbows in, lean on something, breathe out</source>
        <translation>Ellbogen anlegen, anlehnen, ausatmen</translation>
    </message>
    <message>
        <source>Eleven</source>
        <translation>Elf</translation>
    </message>
    <message>
        <source>Empty the scene</source>
        <translation>Menschen entfernen</translation>
    </message>
    <message>
        <source>End the path</source>
        <translation>Den Weg beenden</translation>
    </message>
    <message>
        <source>Enlarge the picture</source>
        <translation>Bild vergrößern</translation>
    </message>
    <message>
        <source>Every combined view but those left out; what is there and current is not written again</source>
        <translation>Jedes vereinte Motiv außer den weggelassenen; was da und aktuell ist, wird nicht noch einmal geschrieben</translation>
    </message>
    <message>
        <source>Every frame is left out; use at least one.</source>
        <translation>Jede Aufnahme ist weggelassen; mindestens eine verwenden.</translation>
    </message>
    <message>
        <source>Every other view of the job takes this finish; each keeps its own white point, shape and placement</source>
        <translation>Jedes andere Motiv des Auftrags bekommt diese Ausarbeitung; jedes behält Weißpunkt, Form und Lage der Töne</translation>
    </message>
    <message>
        <source>Every view side by side: before, after, and what is to do (0)</source>
        <translation>Alle Motive nebeneinander: vorher, nachher und was zu tun ist (0)</translation>
    </message>
    <message>
        <source>Every way to bracket, with its figures</source>
        <translation>Jede Weise, eine Reihe aufzunehmen, mit ihren Zahlen</translation>
    </message>
    <message>
        <source>Everything (JSON)...</source>
        <translation>Alles (JSON)...</translation>
    </message>
    <message>
        <source>Everything here is practice: it never becomes a visit. Exercises of a teacher lie in %1.</source>
        <translation>Hier ist alles Übung: Es wird nie ein Termin daraus. Übungen einer Lehrkraft liegen in %L1.</translation>
    </message>
    <message>
        <source>Everything is covered with no frame too many.</source>
        <translation>Alles ist gefasst, mit keiner Aufnahme zu viel.</translation>
    </message>
    <message>
        <source>Everything that was asked for is there and current.</source>
        <translation>Alles Verlangte ist da und aktuell.</translation>
    </message>
    <message>
        <source>Exercises</source>
        <translation>Übungen</translation>
    </message>
    <message>
        <source>Exercises with the simulated camera (E)</source>
        <translation>Übungen mit der nachgebildeten Kamera (E)</translation>
    </message>
    <message>
        <source>Export</source>
        <translation>Ausgeben</translation>
    </message>
    <message>
        <source>Export the profile</source>
        <translation>Profil ausgeben</translation>
    </message>
    <message>
        <source>Export...</source>
        <translation>Ausgeben...</translation>
    </message>
    <message>
        <source>Exported.</source>
        <translation>Ausgegeben.</translation>
    </message>
    <message>
        <source>Exposure mode</source>
        <translation>Belichtungsart</translation>
    </message>
    <message>
        <source>Exposure time</source>
        <translation>Belichtungszeit</translation>
    </message>
    <message>
        <source>Fading, %1 stop/min</source>
        <translation>Fällt um %L1 Blende/min</translation>
    </message>
    <message>
        <source>Fading, 1 stop/min</source>
        <translation>Fällt um 1 Blende/min</translation>
    </message>
    <message>
        <source>Fading, 1/4 stop/min</source>
        <translation>Fällt um 1/4 Blende/min</translation>
    </message>
    <message>
        <source>Faults there may be: {}.</source>
        <translation>Mögliche Fehler: {}.</translation>
    </message>
    <message>
        <source>Fetching what stayed on the camera: {}</source>
        <translation>Was auf der Kamera blieb, wird geholt: {}</translation>
    </message>
    <message>
        <source>Field card</source>
        <translation>Zettel</translation>
    </message>
    <message>
        <source>Field card and shot list are in %1.</source>
        <translation>Merkzettel und Aufnahmeliste liegen in %L1.</translation>
    </message>
    <message>
        <source>Field check</source>
        <translation>Prüfung vor Ort</translation>
    </message>
    <message>
        <source>File format</source>
        <translation>Dateiart</translation>
    </message>
    <message>
        <source>File size, MB</source>
        <translation>Dateigröße, MB</translation>
    </message>
    <message>
        <source>Files</source>
        <translation>Dateien</translation>
    </message>
    <message>
        <source>Files of all these views, as chosen at Deliver (Ctrl+Return)</source>
        <translation>Dateien all dieser Motive, wie bei „Liefern“ gewählt (Strg+Eingabe)</translation>
    </message>
    <message>
        <source>Find places that positions share</source>
        <translation>Stellen suchen, die Positionen gemeinsam haben</translation>
    </message>
    <message>
        <source>Find the response</source>
        <translation>Kennlinie bestimmen</translation>
    </message>
    <message>
        <source>Find what is wrong</source>
        <translation>Finden, was nicht stimmt</translation>
    </message>
    <message>
        <source>Finder</source>
        <translation>Sucher</translation>
    </message>
    <message>
        <source>Finds level lines in the picture and levels them</source>
        <translation>Findet waagerechte Linien im Bild und richtet sie aus</translation>
    </message>
    <message>
        <source>Finds plumb lines in the picture and sets them plumb</source>
        <translation>Findet senkrechte Linien im Bild und stellt sie ins Lot</translation>
    </message>
    <message>
        <source>Finish</source>
        <translation>Ausarbeiten</translation>
    </message>
    <message>
        <source>Finish like %1</source>
        <translation>Wie %L1 ausarbeiten</translation>
    </message>
    <message>
        <source>Finished</source>
        <translation>Ausgearbeitet</translation>
    </message>
    <message>
        <source>Finishes</source>
        <translation>Ausarbeitungen</translation>
    </message>
    <message>
        <source>First frame</source>
        <translation>Erste</translation>
    </message>
    <message>
        <source>First look</source>
        <translation>Erster Blick</translation>
    </message>
    <message>
        <source>Five</source>
        <translation>Fünf</translation>
    </message>
    <message>
        <source>Five at 1 stop</source>
        <translation>Fünf zu 1 Blende</translation>
    </message>
    <message>
        <source>Five at 2 stops</source>
        <translation>Fünf zu 2 Blenden</translation>
    </message>
    <message>
        <source>Five frames, two stops, against three: SNR {:.0f} instead of {:.0f} in the darkest reading; {}.</source>
        <translation>Fünf Aufnahmen zu zwei Blenden gegen drei: SNR {:.0Lf} statt {:.0Lf} in der dunkelsten Messung; {}.</translation>
    </message>
    <message>
        <source>Flash</source>
        <translation>Blitz</translation>
    </message>
    <message>
        <source>Flash can harm photosensitive people and animals; ask first.</source>
        <translation>Blitzlicht kann lichtempfindlichen Menschen und Tieren schaden; vorher fragen.</translation>
    </message>
    <message>
        <source>Focal length</source>
        <translation>Brennweite</translation>
    </message>
    <message>
        <source>Focus</source>
        <translation>Schärfe</translation>
    </message>
    <message>
        <source>Focus, then switch to manual focus</source>
        <translation>Scharfstellen, dann auf manuell</translation>
    </message>
    <message>
        <source>Focused at</source>
        <translation>Scharfgestellt auf</translation>
    </message>
    <message>
        <source>Folder for the charts</source>
        <translation>Ordner für die Diagramme</translation>
    </message>
    <message>
        <source>Foot of the stand</source>
        <translation>Fuß des Stativs</translation>
    </message>
    <message>
        <source>Found </source>
        <translation>Gefunden </translation>
    </message>
    <message>
        <source>Found: {}.</source>
        <translation>Gefunden: {}.</translation>
    </message>
    <message>
        <source>Four</source>
        <translation>Vier</translation>
    </message>
    <message>
        <source>Four corners</source>
        <translation>Vier Ecken</translation>
    </message>
    <message>
        <source>Four of five frames from your hand are sharp at {} with 24 mm, {} with 50 mm and {} with 100 mm (35 mm equivalents); the band at 24 mm is {} to {} ({} frames).</source>
        <translation>Vier von fünf Aufnahmen aus Ihrer Hand sind scharf bei {} mit 24 mm, {} mit 50 mm und {} mit 100 mm (auf Kleinbild bezogen); das Band bei 24 mm reicht von {} bis {} ({} Aufnahmen).</translation>
    </message>
    <message>
        <source>Frame %1	%2	EV %3 to %4
</source>
        <translation>Aufnahme %L1	%L2	EV %L3 bis %L4
</translation>
    </message>
    <message>
        <source>Frame %1, %2</source>
        <translation>Aufnahme %L1, %L2</translation>
    </message>
    <message>
        <source>Frame %1, %2: %3.</source>
        <translation>Aufnahme %L1, %L2: %L3.</translation>
    </message>
    <message>
        <source>Frame %1, %2: %3; left out in %4 % of the picture.</source>
        <translation>Aufnahme %L1, %L2: %L3; in %L4 % des Bildes weggelassen.</translation>
    </message>
    <message>
        <source>Frame %1, %2: with flash; it shows what every other frame clips.</source>
        <translation>Aufnahme %1, %2: mit Blitz; sie zeigt, was in allen anderen ausgefressen ist.</translation>
    </message>
    <message>
        <source>Frame %1: %2</source>
        <translation>Aufnahme %L1: %L2</translation>
    </message>
    <message>
        <source>Frame to paint from</source>
        <translation>Aufnahme, aus der gemalt wird</translation>
    </message>
    <message>
        <source>Frame {}</source>
        <translation>Aufnahme {}</translation>
    </message>
    <message>
        <source>Frame {} agrees with the others nowhere well enough to be placed; it is left out. If the camera stood still, combine without aligning.</source>
        <translation>Aufnahme {} passt nirgends gut genug zu den anderen, um ihren Platz zu finden; sie bleibt weg. Stand die Kamera still, ohne Ausrichten vereinen.</translation>
    </message>
    <message>
        <source>Frame {} could only be placed by frame {}, which cannot be placed itself; it is left out.</source>
        <translation>Aufnahme {} ließ sich nur an Aufnahme {} ausrichten, die selbst keinen Platz findet; sie bleibt weg.</translation>
    </message>
    <message>
        <source>Frame {} of {}</source>
        <translation>Aufnahme {} von {}</translation>
    </message>
    <message>
        <source>Frame {} of {}: {}</source>
        <translation>Aufnahme {} von {}: {}</translation>
    </message>
    <message>
        <source>Frame {} shares too few tones with its neighbour to measure its place; the neighbour's is used.</source>
        <translation>Aufnahme {} hat zu wenige Töne mit ihrer Nachbarin gemeinsam, um ihren Platz zu messen; sie bekommt den der Nachbarin.</translation>
    </message>
    <message>
        <source>Frame {} shares too little with the others; leave it out or shoot it again.</source>
        <translation>Aufnahme {} hat zu wenig mit den anderen gemeinsam; weglassen oder noch einmal aufnehmen.</translation>
    </message>
    <message>
        <source>Frame {} shows too little of what the others show to say whether it is sharp; look at it at 100 %.</source>
        <translation>Aufnahme {} zeigt zu wenig von dem, was die anderen zeigen, um zu sagen, ob sie scharf ist; bei 100 % ansehen.</translation>
    </message>
    <message>
        <source>Frame {}: {}, records EV {:.1f} to {:.1f}.</source>
        <translation>Aufnahme {}: {}, zeichnet EV {:.1Lf} bis {:.1Lf} auf.</translation>
    </message>
    <message>
        <source>Frames</source>
        <translation>Aufnahmen</translation>
    </message>
    <message>
        <source>Frames</source>
        <comment>station</comment>
        <translation>Planen</translation>
    </message>
    <message>
        <source>Frames of one or more brackets</source>
        <translation>Aufnahmen einer oder mehrerer Reihen</translation>
    </message>
    <message>
        <source>Frames of this set, as they arrived</source>
        <translation>Aufnahmen dieses Satzes, in der Folge ihrer Ankunft</translation>
    </message>
    <message>
        <source>Frames of your own bracket</source>
        <translation>Aufnahmen der eigenen Reihe</translation>
    </message>
    <message>
        <source>Frames that are used</source>
        <translation>Verwendete Aufnahmen</translation>
    </message>
    <message>
        <source>Frames that said anything</source>
        <translation>Aufnahmen, die etwas beitrugen</translation>
    </message>
    <message>
        <source>From</source>
        <translation>Von</translation>
    </message>
    <message>
        <source>From %1</source>
        <translation>Ab %L1</translation>
    </message>
    <message>
        <source>From frame {} on the light differs by {}: lamps that flicker against short times, or a cloud; combining allows for it.</source>
        <translation>Ab Aufnahme {} weicht das Licht um {} ab: Lampen, die bei kurzen Zeiten flackern, oder eine Wolke; beim Vereinen wird es berücksichtigt.</translation>
    </message>
    <message>
        <source>From frame {} on the time is not the planned one; the camera has left its bracket. Set it again and shoot {}.</source>
        <translation>Ab Aufnahme {} stimmt die Zeit nicht mit dem Plan; die Kamera hat ihre Reihe verlassen. Neu einstellen und {} aufnehmen.</translation>
    </message>
    <message>
        <source>From frame {} on {}: {} and shoot it again.</source>
        <translation>Ab Aufnahme {} gilt: {}; {} und sie noch einmal aufnehmen.</translation>
    </message>
    <message>
        <source>From frame {} on {}: {} and shoot them again.</source>
        <translation>Ab Aufnahme {} gilt: {}; {} und sie noch einmal aufnehmen.</translation>
    </message>
    <message>
        <source>From nothing to a finished picture of your own, with the why at each step</source>
        <translation>Von nichts bis zum eigenen fertigen Bild, mit dem Warum bei jedem Schritt</translation>
    </message>
    <message>
        <source>From the hand the longest time must stay short enough; 250 to 500 indoors.</source>
        <translation>Aus der Hand muss die längste Zeit kurz genug bleiben; in Räumen ISO 250 bis 500.</translation>
    </message>
    <message>
        <source>Full run</source>
        <translation>Voller Durchgang</translation>
    </message>
    <message>
        <source>Full screen</source>
        <translation>Vollbild</translation>
    </message>
    <message>
        <source>Full well, electrons</source>
        <translation>Sättigung, Elektronen</translation>
    </message>
    <message>
        <source>General</source>
        <translation>Allgemein</translation>
    </message>
    <message>
        <source>Ghosts are left in {:.2f} % of the picture{}.</source>
        <translation>In {:.2Lf} % des Bildes sind Geister geblieben{}.</translation>
    </message>
    <message>
        <source>Ghosts were not looked for.</source>
        <translation>Nach Geistern wurde nicht gesucht.</translation>
    </message>
    <message>
        <source>Give contrast back</source>
        <translation>Kontrast zurückgeben</translation>
    </message>
    <message>
        <source>Go on</source>
        <translation>Weiter</translation>
    </message>
    <message>
        <source>Go on with %1</source>
        <translation>Weiter mit %L1</translation>
    </message>
    <message>
        <source>Go on {}: there is such light all day.</source>
        <translation>Am {} hingehen: Da gibt es solches Licht den ganzen Tag.</translation>
    </message>
    <message>
        <source>Go on {}: there is such light from {}.</source>
        <translation>Am {} hingehen: Da gibt es solches Licht von {}.</translation>
    </message>
    <message>
        <source>Go to the picture with the keys</source>
        <translation>Mit den Tasten ins Bild gehen</translation>
    </message>
    <message>
        <source>Go to this view (Return)</source>
        <translation>Zu diesem Motiv gehen (Eingabe)</translation>
    </message>
    <message>
        <source>Green to magenta</source>
        <translation>Grün bis Magenta</translation>
    </message>
    <message>
        <source>Guide</source>
        <translation>Anleitung</translation>
    </message>
    <message>
        <source>Gust of wind</source>
        <translation>Windstoß</translation>
    </message>
    <message>
        <source>HDR AVIF</source>
        <translation>HDR-AVIF</translation>
    </message>
    <message>
        <source>HDR JPEG</source>
        <translation>HDR-JPEG</translation>
    </message>
    <message>
        <source>HDR JPEG XL</source>
        <translation>HDR-JPEG XL</translation>
    </message>
    <message>
        <source>Half</source>
        <translation>Die Hälfte</translation>
    </message>
    <message>
        <source>Half right, the frame is another: {}.</source>
        <translation>Halb richtig, die Aufnahme ist eine andere: {}.</translation>
    </message>
    <message>
        <source>Hand in front of the lens between sets; bracketing off at the end</source>
        <translation>Zwischen den Sätzen die Hand vor das Objektiv; am Ende die Reihenautomatik aus</translation>
    </message>
    <message>
        <source>Hand-held</source>
        <translation>Freihand</translation>
    </message>
    <message>
        <source>Hand-held: the camera sways</source>
        <translation>Aus der Hand: Die Kamera schwankt</translation>
    </message>
    <message>
        <source>Haze taken away</source>
        <translation>Dunst weggenommen</translation>
    </message>
    <message>
        <source>Head level, verticals vertical</source>
        <translation>Kopf waagerecht, Senkrechte senkrecht</translation>
    </message>
    <message>
        <source>Here every way to bracket stands beside the others, with its frames, its coverage and its cost.
Take two readings at Light first: the brightest and the darkest that must keep texture.</source>
        <translation>Hier steht jede Weise neben den anderen, mit ihren Aufnahmen, dem, was sie fasst, und dem, was sie kostet.
Zuerst bei „Licht“ zwei Messungen nehmen: das Hellste und das Dunkelste, das Zeichnung behalten muss.</translation>
    </message>
    <message>
        <source>Here the picture will be.</source>
        <translation>Hier wird das Bild sein.</translation>
    </message>
    <message>
        <source>Here the sun's way and the order of the views will be.</source>
        <translation>Hier werden der Weg der Sonne und die Reihenfolge der Motive sein.</translation>
    </message>
    <message>
        <source>Highest ISO</source>
        <translation>Höchste ISO</translation>
    </message>
    <message>
        <source>Highlights are clipped in the darkest frame ({:.1f} % of the picture): shoot {}.</source>
        <translation>In der dunkelsten Aufnahme sind Lichter ausgefressen ({:.1Lf} % des Bildes): {} aufnehmen.</translation>
    </message>
    <message>
        <source>Highlights are clipped in the darkest frame, and {} is the camera's shortest time: close the aperture or let them clip.</source>
        <translation>In der dunkelsten Aufnahme sind Lichter ausgefressen, und {} ist die kürzeste Zeit der Kamera: abblenden oder ausfressen lassen.</translation>
    </message>
    <message>
        <source>Hold still: waiting for a lull</source>
        <translation>Stillhalten: Es wird auf eine Windstille gewartet</translation>
    </message>
    <message>
        <source>Holds texture back where it is noise</source>
        <translation>Hält Struktur zurück, wo sie Rauschen ist</translation>
    </message>
    <message>
        <source>How files are named</source>
        <translation>Wie Dateien heißen</translation>
    </message>
    <message>
        <source>How large a spot is read</source>
        <translation>Wie groß ein Messpunkt ist</translation>
    </message>
    <message>
        <source>How long was %1 exposed? For instance 1/60 or 0.4</source>
        <translation>Wie lange wurde %L1 belichtet? Zum Beispiel 1/60 oder 0,4</translation>
    </message>
    <message>
        <source>How many are fired, from the shortest to the longest time</source>
        <translation>Wie viele ausgelöst werden, von der kürzesten zur längsten Zeit</translation>
    </message>
    <message>
        <source>How moving things are treated</source>
        <translation>Wie Bewegtes behandelt wird</translation>
    </message>
    <message>
        <source>How much</source>
        <translation>Wie viel</translation>
    </message>
    <message>
        <source>How much of it</source>
        <translation>Wie viel davon</translation>
    </message>
    <message>
        <source>How the chosen views are combined</source>
        <translation>Wie die gewählten Motive vereint werden</translation>
    </message>
    <message>
        <source>How the frames are aligned</source>
        <translation>Wie die Aufnahmen ausgerichtet werden</translation>
    </message>
    <message>
        <source>How the frames are combined</source>
        <translation>Wie die Aufnahmen vereint werden</translation>
    </message>
    <message>
        <source>ISO</source>
        <translation>ISO</translation>
    </message>
    <message>
        <source>ISO up to</source>
        <translation>ISO bis</translation>
    </message>
    <message>
        <source>ISO went to {:.0f}</source>
        <translation>ISO ging auf {:.0Lf}</translation>
    </message>
    <message>
        <source>If not manual</source>
        <translation>Nicht manuell</translation>
    </message>
    <message>
        <source>Import...</source>
        <translation>Einlesen...</translation>
    </message>
    <message>
        <source>Imported.</source>
        <translation>Eingelesen.</translation>
    </message>
    <message>
        <source>In "{}" the wall is {:.1f} (CIEDE2000) {} than in "{}"</source>
        <translation>In „{}“ ist die Wand um {:.1Lf} (CIEDE2000) {} als in „{}“</translation>
    </message>
    <message>
        <source>In cloth, grain, leaves</source>
        <translation>In Stoff, Maserung, Blättern</translation>
    </message>
    <message>
        <source>In larger things: folds, chairs, clouds</source>
        <translation>In Größerem: Falten, Stühlen, Wolken</translation>
    </message>
    <message>
        <source>In the camera</source>
        <translation>In der Kamera</translation>
    </message>
    <message>
        <source>In the dark: light for the way back, and no steps on what you cannot see.</source>
        <translation>Im Dunkeln: Licht für den Rückweg, und kein Schritt auf etwas, das man nicht sieht.</translation>
    </message>
    <message>
        <source>In the hand, in a hurry</source>
        <translation>Aus der Hand, in Eile</translation>
    </message>
    <message>
        <source>In the middle as it was placed; to the left the window as bright as in one exposure, to the right darker</source>
        <translation>In der Mitte wie gelegt; links das Fenster so hell wie in einer Belichtung, rechts dunkler</translation>
    </message>
    <message>
        <source>In the radiance file the value 1 stands for %1 cd/m2.</source>
        <translation>In der Strahldichtedatei steht der Wert 1 für %L1 cd/m2.</translation>
    </message>
    <message>
        <source>It fires in the dark frames and lights what the others show dark.</source>
        <translation>Er blitzt in die dunklen Aufnahmen und erhellt, was die anderen dunkel zeigen.</translation>
    </message>
    <message>
        <source>It gets dark: keep off edges of water, roads and rails, carry a light, and mind the way back.</source>
        <translation>Es wird dunkel: weg von Wasserkanten, Straßen und Gleisen, ein Licht mitnehmen und an den Rückweg denken.</translation>
    </message>
    <message>
        <source>It holds the hand still.</source>
        <translation>Er hält die Hand ruhig.</translation>
    </message>
    <message>
        <source>It is as light as frame %1, %2, which was metered for most of the scene.</source>
        <translation>Es ist so hell wie Aufnahme %L1, %L2, die für den größten Teil der Szene gemessen ist.</translation>
    </message>
    <message>
        <source>It is not made yet; `mellow-lantern-cli farm resume {}` makes what is missing.</source>
        <translation>Es ist noch nicht gemacht; `mellow-lantern-cli farm resume {}` macht, was fehlt.</translation>
    </message>
    <message>
        <source>It is sharper than {0} where both show the same: the focus is another. Shoot {0} again, focused as this one.</source>
        <translation>Sie ist schärfer als {0}, wo beide dasselbe zeigen: die Schärfe liegt anders. {0} noch einmal aufnehmen, scharfgestellt wie diese.</translation>
    </message>
    <message>
        <source>It is softer than {} where both show the same: the focus is another. Focus by hand, once for all positions, and shoot it again.</source>
        <translation>Sie ist weicher als {}, wo beide dasselbe zeigen: die Schärfe liegt anders. Von Hand scharfstellen, einmal für alle Positionen, und noch einmal aufnehmen.</translation>
    </message>
    <message>
        <source>It is the fewest frames, then the least time, over every count, step and third-stop centre of "%1".</source>
        <translation>Es sind die wenigsten Aufnahmen, dann die wenigste Zeit, über jede Anzahl, jeden Schritt und jede Drittelblende von „%L1“.</translation>
    </message>
    <message>
        <source>It looks {:.0f} degrees {} than planned beside {}: level the camera, or the joined picture loses that much of its height.</source>
        <translation>Sie blickt {:.0Lf} Grad {} als geplant neben {}: Kamera waagerecht stellen, sonst verliert das verbundene Bild so viel Höhe.</translation>
    </message>
    <message>
        <source>It needs a name to be kept by.</source>
        <translation>Zum Behalten braucht es einen Namen.</translation>
    </message>
    <message>
        <source>It shows nearly the same as {}: turn on by {:.0f} degrees and shoot it again.</source>
        <translation>Sie zeigt fast dasselbe wie {}: um {:.0Lf} Grad weiterdrehen und noch einmal aufnehmen.</translation>
    </message>
    <message>
        <source>Its camera stands at</source>
        <translation>Ihre Kamera steht bei</translation>
    </message>
    <message>
        <source>Its exposures are not those of {}. Set them by hand, the same at every position, and shoot it again.</source>
        <translation>Ihre Belichtungen sind nicht die von {}. Von Hand einstellen, an jeder Position gleich, und noch einmal aufnehmen.</translation>
    </message>
    <message>
        <source>Its light: EV, a time, or cd/m2</source>
        <translation>Ihr Licht: EV, eine Zeit oder cd/m2</translation>
    </message>
    <message>
        <source>JPEG</source>
        <translation>JPEG</translation>
    </message>
    <message>
        <source>JPEG XL for HDR screens</source>
        <translation>JPEG XL für HDR-Bildschirme</translation>
    </message>
    <message>
        <source>JPEG for the web</source>
        <translation>JPEG für das Netz</translation>
    </message>
    <message>
        <source>JPEG holds at most 65500 pixels a side; use TIFF</source>
        <translation>JPEG fasst höchstens 65500 Pixel je Seite; TIFF nehmen</translation>
    </message>
    <message>
        <source>JPEG that bright screens show brighter</source>
        <translation>JPEG, das helle Bildschirme heller zeigen</translation>
    </message>
    <message>
        <source>JPEG, finest</source>
        <translation>JPEG, feinste Stufe</translation>
    </message>
    <message>
        <source>JPEG, full size, sRGB</source>
        <translation>JPEG, volle Größe, sRGB</translation>
    </message>
    <message>
        <source>Job</source>
        <translation>Auftrag</translation>
    </message>
    <message>
        <source>Job folder</source>
        <translation>Auftragsordner</translation>
    </message>
    <message>
        <source>Jobs are kept in</source>
        <translation>Aufträge liegen in</translation>
    </message>
    <message>
        <source>Join by tone</source>
        <translation>Nach Tönen verbinden</translation>
    </message>
    <message>
        <source>Join the planes of focus</source>
        <translation>Die Schärfeebenen verbinden</translation>
    </message>
    <message>
        <source>Join with the next</source>
        <translation>Mit dem nächsten verbinden</translation>
    </message>
    <message>
        <source>Joining by tone needs two frames, one for the window and one for the room; add the other.</source>
        <translation>Das Verbinden nach Tönen braucht zwei Aufnahmen, eine für das Fenster und eine für den Raum; die andere hinzufügen.</translation>
    </message>
    <message>
        <source>Judge each finish: natural, or overdone, and then how and in which part of the picture.</source>
        <translation>Jede Ausarbeitung beurteilen: natürlich oder übertrieben, und dann wie und in welchem Teil des Bildes.</translation>
    </message>
    <message>
        <source>Judge finishes</source>
        <translation>Ausarbeitungen beurteilen</translation>
    </message>
    <message>
        <source>Judgement</source>
        <translation>Beurteilung</translation>
    </message>
    <message>
        <source>Keep</source>
        <translation>Behalten</translation>
    </message>
    <message>
        <source>Keep as a look...</source>
        <translation>Als Stil behalten...</translation>
    </message>
    <message>
        <source>Keep as my own</source>
        <translation>Als eigenes behalten</translation>
    </message>
    <message>
        <source>Keep back from water edges; watch tide and footing.</source>
        <translation>Abstand zu Wasserkanten halten; auf Gezeiten und Tritt achten.</translation>
    </message>
    <message>
        <source>Keep the light at dusk</source>
        <translation>Das Licht der Dämmerung erwischen</translation>
    </message>
    <message>
        <source>Keep the radiance</source>
        <translation>Die Strahldichte ablegen</translation>
    </message>
    <message>
        <source>Keep this area by name, or lay one that was kept over this picture</source>
        <translation>Diesen Bereich unter einem Namen behalten oder einen behaltenen auf dieses Bild legen</translation>
    </message>
    <message>
        <source>Keep this area...</source>
        <translation>Diesen Bereich behalten...</translation>
    </message>
    <message>
        <source>Keep this light and colour as a look of your own</source>
        <translation>Dieses Licht und diese Farbe als eigenen Stil behalten</translation>
    </message>
    <message>
        <source>Keep where my finishes end as a starting point</source>
        <translation>Behalten, wo meine Ausarbeitungen enden, als Ausgangspunkt</translation>
    </message>
    <message>
        <source>Keeps what most frames agree on, so that passers-by vanish; needs three frames</source>
        <translation>Behält, worin die meisten Aufnahmen übereinstimmen, sodass Passanten verschwinden; braucht drei Aufnahmen</translation>
    </message>
    <message>
        <source>Kept</source>
        <translation>Behalten</translation>
    </message>
    <message>
        <source>Kept.</source>
        <translation>Behalten.</translation>
    </message>
    <message>
        <source>Keys</source>
        <translation>Tasten</translation>
    </message>
    <message>
        <source>Kind</source>
        <translation>Art</translation>
    </message>
    <message>
        <source>Lamps</source>
        <translation>Lampen</translation>
    </message>
    <message>
        <source>Land in cool light</source>
        <translation>Land in kühlem Licht</translation>
    </message>
    <message>
        <source>Land in warm light</source>
        <translation>Land in warmem Licht</translation>
    </message>
    <message>
        <source>Language</source>
        <translation>Sprache</translation>
    </message>
    <message>
        <source>Large contrast</source>
        <translation>Großer Kontrast</translation>
    </message>
    <message>
        <source>Late</source>
        <translation>Spät</translation>
    </message>
    <message>
        <source>Later (Alt+Down)</source>
        <translation>Später (Alt+Ab)</translation>
    </message>
    <message>
        <source>Latitude</source>
        <translation>Breite</translation>
    </message>
    <message>
        <source>Latitude and longitude as the frames' Exif says</source>
        <translation>Breite und Länge, wie der Exif-Block der Aufnahmen sie nennt</translation>
    </message>
    <message>
        <source>Latitude lies within 90 degrees, longitude within 180: type them as 46.8 or 46 48 N.</source>
        <translation>Die Breite liegt innerhalb von 90 Grad, die Länge innerhalb von 180: als 46,8 oder 46 48 N eingeben.</translation>
    </message>
    <message>
        <source>Lay circles on a sphere</source>
        <translation>Kreise auf eine Kugel legen</translation>
    </message>
    <message>
        <source>Lay the seams</source>
        <translation>Die Nähte legen</translation>
    </message>
    <message>
        <source>Leans to the right: levels the horizon</source>
        <translation>Nach rechts geneigt: richtet den Horizont</translation>
    </message>
    <message>
        <source>Learnt</source>
        <translation>Gelernt</translation>
    </message>
    <message>
        <source>Least SNR</source>
        <translation>Kleinster SNR</translation>
    </message>
    <message>
        <source>Least SNR of all frames together, and where</source>
        <translation>Kleinster SNR aller Aufnahmen zusammen, und wo</translation>
    </message>
    <message>
        <source>Least SNR of what must keep texture: 10 is acceptable, 40 excellent (ISO 12232); or type your own</source>
        <translation>Kleinster SNR dessen, was Zeichnung behalten muss: 10 ist annehmbar, 40 ausgezeichnet (ISO 12232); oder einen eigenen eingeben</translation>
    </message>
    <message>
        <source>Least stretch that neighbouring frames both record, in stops</source>
        <translation>Kleinste Spanne, die zwei Nachbarinnen beide aufzeichnen, in Blenden</translation>
    </message>
    <message>
        <source>Leave frame {} out</source>
        <translation>Aufnahme {} weglassen</translation>
    </message>
    <message>
        <source>Leave frames out</source>
        <translation>Aufnahmen weglassen</translation>
    </message>
    <message>
        <source>Leave out</source>
        <translation>Weglassen</translation>
    </message>
    <message>
        <source>Leave out frame %1</source>
        <translation>Aufnahme %L1 weglassen</translation>
    </message>
    <message>
        <source>Leave out when all are delivered</source>
        <translation>Weglassen, wenn alle geliefert werden</translation>
    </message>
    <message>
        <source>Leave out {} for it.</source>
        <translation>{} dafür weglassen.</translation>
    </message>
    <message>
        <source>Leaves in a light breeze</source>
        <translation>Blätter in leichtem Wind</translation>
    </message>
    <message>
        <source>Lens shift</source>
        <translation>Objektiv verschoben</translation>
    </message>
    <message>
        <source>Less form and texture</source>
        <translation>Weniger Form und Struktur</translation>
    </message>
    <message>
        <source>Level first. One bracket serves all positions: read the light over all of them. 0 degrees: one position.</source>
        <translation>Zuerst waagerecht stellen. Eine Reihe dient allen Positionen: das Licht über alle messen. 0 Grad: eine Position.</translation>
    </message>
    <message>
        <source>Level the head; lock column and head</source>
        <translation>Kopf waagerecht; Säule und Kopf feststellen</translation>
    </message>
    <message>
        <source>Level, and turned by hand</source>
        <translation>Waagrecht, und von Hand gedreht</translation>
    </message>
    <message>
        <source>Lift the darkest tones</source>
        <translation>Die dunkelsten Töne anheben</translation>
    </message>
    <message>
        <source>Light</source>
        <translation>Licht</translation>
    </message>
    <message>
        <source>Light Ladder</source>
        <translation>Lichtleiter</translation>
    </message>
    <message>
        <source>Light it wants</source>
        <translation>Gewünschtes Licht</translation>
    </message>
    <message>
        <source>Light of EV %1 on paper at %2 stops</source>
        <translation>Licht von EV %L1 auf Papier bei %L2 Blenden</translation>
    </message>
    <message>
        <source>Light steady</source>
        <translation>Licht stetig</translation>
    </message>
    <message>
        <source>Light, EV at ISO 100</source>
        <translation>Licht, EV bei ISO 100</translation>
    </message>
    <message>
        <source>Lighter</source>
        <translation>Heller</translation>
    </message>
    <message>
        <source>Lines and crop</source>
        <translation>Linien und Schnitt</translation>
    </message>
    <message>
        <source>Lines to compose by</source>
        <translation>Linien zur Bildgestaltung</translation>
    </message>
    <message>
        <source>Lit by flash, which raised nothing by half a stop: it must be stronger, or straight at the window.</source>
        <translation>Mit Blitz belichtet, der nichts um eine halbe Blende aufgehellt hat: Er muss stärker sein oder gerade auf das Fenster zeigen.</translation>
    </message>
    <message>
        <source>Lit by flash: it shows what the others clip, and is not compared.</source>
        <translation>Mit Blitz belichtet: Sie zeigt, was in den anderen ausgefressen ist, und wird nicht verglichen.</translation>
    </message>
    <message>
        <source>Lit signs at night</source>
        <translation>Leuchtschriften bei Nacht</translation>
    </message>
    <message>
        <source>Local rules and the owner's safety instructions come first.</source>
        <translation>Örtliche Regeln und die Sicherheitshinweise des Eigentümers gehen vor.</translation>
    </message>
    <message>
        <source>Logbook</source>
        <translation>Logbuch</translation>
    </message>
    <message>
        <source>Long frames: weight on the tripod, strap tied up, no steps on a soft floor.</source>
        <translation>Lange Belichtungen: Gewicht ans Stativ, Gurt festgebunden, keine Schritte auf weichem Boden.</translation>
    </message>
    <message>
        <source>Longest side for the web</source>
        <translation>Längste Seite für das Netz</translation>
    </message>
    <message>
        <source>Longest time</source>
        <translation>Längste Zeit</translation>
    </message>
    <message>
        <source>Longitude</source>
        <translation>Länge</translation>
    </message>
    <message>
        <source>Look</source>
        <translation>Stil</translation>
    </message>
    <message>
        <source>Look around</source>
        <translation>Umschauen</translation>
    </message>
    <message>
        <source>Look around in a sphere</source>
        <translation>In einer Kugel umschauen</translation>
    </message>
    <message>
        <source>Look at the finish: does it look like the place? Move one slider a little.</source>
        <translation>Die Ausarbeitung ansehen: Sieht sie aus wie der Ort? Einen Regler ein wenig bewegen.</translation>
    </message>
    <message>
        <source>Look at the frames</source>
        <translation>Die Aufnahmen ansehen</translation>
    </message>
    <message>
        <source>Look at the pictures</source>
        <translation>Die Bilder ansehen</translation>
    </message>
    <message>
        <source>Look at the plan: how many frames, how far apart.</source>
        <translation>Den Plan ansehen: wie viele Aufnahmen, wie weit auseinander.</translation>
    </message>
    <message>
        <source>Look for cameras by USB</source>
        <translation>Kameras über USB suchen</translation>
    </message>
    <message>
        <source>Look for movement</source>
        <translation>Nach Bewegung suchen</translation>
    </message>
    <message>
        <source>Look for views of several positions</source>
        <translation>Nach Motiven aus mehreren Positionen suchen</translation>
    </message>
    <message>
        <source>Look through the frames of this set: which faults are in it, and with which frame does each begin? It may be sound.</source>
        <translation>Die Aufnahmen dieses Satzes durchsehen: Welche Fehler stecken darin, und mit welcher Aufnahme beginnt jeder? Er kann auch in Ordnung sein.</translation>
    </message>
    <message>
        <source>Looked for closely</source>
        <translation>Genau gesucht</translation>
    </message>
    <message>
        <source>Looking for cameras took too long and was given up; unplug the camera, plug it in and look again.</source>
        <translation>Die Suche nach Kameras dauerte zu lange und wurde aufgegeben; Kamera abziehen, anstecken und noch einmal suchen.</translation>
    </message>
    <message>
        <source>Looks</source>
        <translation>Stile</translation>
    </message>
    <message>
        <source>Looks further to the right; or drag the picture</source>
        <translation>Blickt weiter nach rechts; oder das Bild ziehen</translation>
    </message>
    <message>
        <source>Looks further up: bends the horizon back; or drag the picture</source>
        <translation>Blickt weiter nach oben: biegt den Horizont zurück; oder das Bild ziehen</translation>
    </message>
    <message>
        <source>MB</source>
        <translation>MB</translation>
    </message>
    <message>
        <source>Make %1 views</source>
        <translation>%L1 Motive anlegen</translation>
    </message>
    <message>
        <source>Make one view</source>
        <translation>Ein Motiv anlegen</translation>
    </message>
    <message>
        <source>Make the picture smaller</source>
        <translation>Bild verkleinern</translation>
    </message>
    <message>
        <source>Manual</source>
        <translation>Manuell</translation>
    </message>
    <message>
        <source>Many small moves beat one big one. When it begins to look made, go back.</source>
        <translation>Viele kleine Züge sind besser als ein großer. Sobald es gemacht aussieht, zurückgehen.</translation>
    </message>
    <message>
        <source>Measure the sensor</source>
        <translation>Den Sensor messen</translation>
    </message>
    <message>
        <source>Measure...</source>
        <translation>Messen...</translation>
    </message>
    <message>
        <source>Measured from %1 pairs: full well %2 electrons, read noise %3.</source>
        <translation>Aus %L1 Paaren gemessen: Sättigung %L2 Elektronen, Ausleserauschen %L3.</translation>
    </message>
    <message>
        <source>Mellow Lantern</source>
        <translation>Mellow Lantern</translation>
    </message>
    <message>
        <source>Merge</source>
        <translation>Vereinen</translation>
    </message>
    <message>
        <source>Middle</source>
        <translation>Mitte</translation>
    </message>
    <message>
        <source>Middle frame</source>
        <translation>Mittlere</translation>
    </message>
    <message>
        <source>Minute %1: sky EV %2, lamps EV %3</source>
        <translation>Minute %L1: Himmel EV %L2, Lampen EV %L3</translation>
    </message>
    <message>
        <source>Minutes</source>
        <translation>Minuten</translation>
    </message>
    <message>
        <source>Minutes for a view, by month</source>
        <translation>Minuten je Motiv, nach Monaten</translation>
    </message>
    <message>
        <source>Minutes of a way that is not named</source>
        <translation>Minuten für einen nicht genannten Weg</translation>
    </message>
    <message>
        <source>Minutes of way %1</source>
        <translation>Minuten für Weg %L1</translation>
    </message>
    <message>
        <source>Missed: {}.</source>
        <translation>Übersehen: {}.</translation>
    </message>
    <message>
        <source>Mode</source>
        <translation>Modus</translation>
    </message>
    <message>
        <source>Monochrome</source>
        <translation>Schwarzweiß</translation>
    </message>
    <message>
        <source>More</source>
        <translation>Mehr</translation>
    </message>
    <message>
        <source>Most ways take</source>
        <translation>Die meisten Wege dauern</translation>
    </message>
    <message>
        <source>Movement is looked for as strictly as can be; at Combine, paint what is doubled from one frame.</source>
        <translation>Nach Bewegung wird so streng wie möglich gesucht; bei „Vereinen“ lässt sich aus einer Aufnahme malen, was doppelt ist.</translation>
    </message>
    <message>
        <source>Movement: from one frame</source>
        <translation>Bewegtes aus einer</translation>
    </message>
    <message>
        <source>Moving</source>
        <translation>Bewegt</translation>
    </message>
    <message>
        <source>My starting point</source>
        <translation>Mein Ausgangspunkt</translation>
    </message>
    <message>
        <source>N</source>
        <translation>N</translation>
    </message>
    <message>
        <source>Name</source>
        <translation>Name</translation>
    </message>
    <message>
        <source>Name of a further view</source>
        <translation>Name eines weiteren Motivs</translation>
    </message>
    <message>
        <source>Name of the reading</source>
        <translation>Name der Messung</translation>
    </message>
    <message>
        <source>Name of the view</source>
        <translation>Name des Motivs</translation>
    </message>
    <message>
        <source>Name this set...</source>
        <translation>Diesen Satz benennen...</translation>
    </message>
    <message>
        <source>Names and rights</source>
        <translation>Namen und Rechte</translation>
    </message>
    <message>
        <source>Natural or overdone</source>
        <translation>Natürlich oder übertrieben</translation>
    </message>
    <message>
        <source>Near and far things lie differently by {:.0f} pixels about position {} (`{}`): look at the seams there.</source>
        <translation>Nahes und Fernes liegen um {:.0Lf} Pixel verschieden um Position {} (`{}`): die Nähte dort ansehen.</translation>
    </message>
    <message>
        <source>Never look at the sun through an optical finder or a long lens, and do not leave the lens pointed at it.</source>
        <translation>Nie durch einen optischen Sucher oder ein langes Objektiv in die Sonne sehen und das Objektiv nicht auf sie gerichtet lassen.</translation>
    </message>
    <message>
        <source>New job from frames...</source>
        <translation>Neuer Auftrag aus Aufnahmen...</translation>
    </message>
    <message>
        <source>Next set in {}</source>
        <translation>Nächster Satz in {}</translation>
    </message>
    <message>
        <source>Next to practise: %1</source>
        <translation>Als Nächstes üben: %L1</translation>
    </message>
    <message>
        <source>Next view</source>
        <translation>Nächstes Motiv</translation>
    </message>
    <message>
        <source>Next: %1.</source>
        <translation>Als Nächstes: %L1.</translation>
    </message>
    <message>
        <source>Next: {} at {}, in {}.</source>
        <translation>Als Nächstes: {} um {}, in {}.</translation>
    </message>
    <message>
        <source>Nine</source>
        <translation>Neun</translation>
    </message>
    <message>
        <source>Nine at 1 stop</source>
        <translation>Neun zu 1 Blende</translation>
    </message>
    <message>
        <source>Nine small steps</source>
        <translation>Neun kleine Schritte</translation>
    </message>
    <message>
        <source>No</source>
        <translation>Keine</translation>
    </message>
    <message>
        <source>No bracket of "{}" fits the time or the space on the card; allow more of it.</source>
        <translation>Keine Reihe „{}“ passt in die Zeit oder auf die Karte; mehr davon erlauben.</translation>
    </message>
    <message>
        <source>No camera at this view</source>
        <translation>Keine Kamera bei diesem Motiv</translation>
    </message>
    <message>
        <source>No frame has arrived yet.</source>
        <translation>Noch ist keine Aufnahme angekommen.</translation>
    </message>
    <message>
        <source>No lens profile is known for this frame; Bent lines, Dark corners and the fringes can be set by hand.</source>
        <translation>Für diese Aufnahme ist kein Objektivprofil bekannt; krumme Linien, dunkle Ecken und Säume lassen sich von Hand einstellen.</translation>
    </message>
    <message>
        <source>No other day of the year helps; choose another light or direction for it.</source>
        <translation>Kein anderer Tag des Jahres hilft; ein anderes Licht oder eine andere Richtung dafür wählen.</translation>
    </message>
    <message>
        <source>No other view is combined yet; combine them first.</source>
        <translation>Noch ist kein anderes Motiv vereint; zuerst vereinen.</translation>
    </message>
    <message>
        <source>No position has a file `{}`; name one of the position that is to be turned.</source>
        <translation>Keine Position hat eine Datei `{}`; eine von der Position nennen, die gedreht werden soll.</translation>
    </message>
    <message>
        <source>No set of fewer frames covers EV {:.1f} to {:.1f}; this is the quickest of those that do, and its worst tone has SNR {:.0f}.</source>
        <translation>Kein Satz aus weniger Aufnahmen fasst EV {:.1Lf} bis {:.1Lf}; dieser ist der schnellste, der es tut, und sein schlechtester Ton hat SNR {:.0Lf}.</translation>
    </message>
    <message>
        <source>No sky is found in this picture: paint it with the brush, or lay a ramp over it.</source>
        <translation>In diesem Bild ist kein Himmel zu finden: mit dem Pinsel malen oder einen Verlauf darüberlegen.</translation>
    </message>
    <message>
        <source>No starting point was learnt yet: it needs ten finishes that were moved.</source>
        <translation>Noch ist kein Ausgangspunkt gelernt: Er braucht zehn Ausarbeitungen, die bewegt wurden.</translation>
    </message>
    <message>
        <source>No time of "{}" fits "{}" within {}; allow a longer one.</source>
        <translation>Keine Zeit von „{}“ passt zu „{}“ innerhalb von {}; eine längere erlauben.</translation>
    </message>
    <message>
        <source>No turning, no crop</source>
        <translation>Nicht gedreht, nicht beschnitten</translation>
    </message>
    <message>
        <source>No view is planned yet: add what is to be photographed.</source>
        <translation>Noch ist kein Motiv geplant: hinzufügen, was fotografiert werden soll.</translation>
    </message>
    <message>
        <source>No visit fits what is looked for.</source>
        <translation>Kein Termin passt zur Suche.</translation>
    </message>
    <message>
        <source>No white paint is found in this picture</source>
        <translation>In diesem Bild ist kein Weiß gefunden</translation>
    </message>
    <message>
        <source>No white paint is found in this picture: click something white with "This is white".</source>
        <translation>In diesem Bild ist kein Weiß gefunden: mit „Das ist weiß“ etwas Weißes anklicken.</translation>
    </message>
    <message>
        <source>No window is found in this picture: paint it with the brush.</source>
        <translation>In diesem Bild ist kein Fenster zu finden: mit dem Pinsel malen.</translation>
    </message>
    <message>
        <source>Noise in the shadows is {:.1f} L*{}.</source>
        <translation>Das Rauschen in den Schatten beträgt {:.1Lf} L*{}.</translation>
    </message>
    <message>
        <source>Noise taken away</source>
        <translation>Entrauschen</translation>
    </message>
    <message>
        <source>None chosen</source>
        <translation>Keine gewählt</translation>
    </message>
    <message>
        <source>None of the frames says where it was taken; type latitude and longitude.</source>
        <translation>Keine Aufnahme sagt, wo sie entstand; Breite und Länge eingeben.</translation>
    </message>
    <message>
        <source>None yet: they appear here and on the Ladder. Keep feet and cables out of walkways; never look at the sun through a finder.</source>
        <translation>Noch keine: Sie erscheinen hier und auf der Lichtleiter. Füße und Kabel aus Wegen halten; nie durch einen Sucher in die Sonne sehen.</translation>
    </message>
    <message>
        <source>Not aligned</source>
        <translation>Nicht ausgerichtet</translation>
    </message>
    <message>
        <source>Not covered	EV %1 to %2
</source>
        <translation>Nicht gefasst	EV %L1 bis %L2
</translation>
    </message>
    <message>
        <source>Not looked for</source>
        <translation>Nicht gesucht</translation>
    </message>
    <message>
        <source>Not so: {}.</source>
        <translation>Stimmt nicht: {}.</translation>
    </message>
    <message>
        <source>Notes</source>
        <translation>Notizen</translation>
    </message>
    <message>
        <source>Notes on %1</source>
        <translation>Notizen zu %L1</translation>
    </message>
    <message>
        <source>Notes on the view...</source>
        <translation>Notizen zum Motiv...</translation>
    </message>
    <message>
        <source>Notes...</source>
        <translation>Notizen...</translation>
    </message>
    <message>
        <source>Notes: what was repeated, and why</source>
        <translation>Notizen: was wiederholt wurde, und warum</translation>
    </message>
    <message>
        <source>Nothing in the guide has these words. Ctrl+K in the window searches the commands.</source>
        <translation>Nichts in der Anleitung hat diese Wörter. Strg+K im Fenster durchsucht die Befehle.</translation>
    </message>
    <message>
        <source>Nothing is combined yet.</source>
        <translation>Noch ist nichts vereint.</translation>
    </message>
    <message>
        <source>Nothing is learnt yet: a figure needs ten cases.</source>
        <translation>Noch ist nichts gelernt: Eine Zahl braucht zehn Fälle.</translation>
    </message>
    <message>
        <source>Nothing is left.</source>
        <translation>Nichts ist übrig.</translation>
    </message>
    <message>
        <source>Nothing is written down yet: every job you work on is, by itself.</source>
        <translation>Noch ist nichts aufgeschrieben: Jeder Auftrag, an dem Sie arbeiten, wird es von selbst.</translation>
    </message>
    <message>
        <source>Nothing moved there that another frame records too; paint it to choose a frame.</source>
        <translation>Dort hat sich nichts bewegt, das auch eine andere Aufnahme zeigt; malen, um eine Aufnahme zu wählen.</translation>
    </message>
    <message>
        <source>Nothing that {0} shows was found in it. Turn back until a third of {0} is in the frame again, and shoot it again.</source>
        <translation>Nichts von dem, was {0} zeigt, ist darin zu finden. Zurückdrehen, bis ein Drittel von {0} wieder im Bild ist, und noch einmal aufnehmen.</translation>
    </message>
    <message>
        <source>Nothing this camera offers covers the scene; this keeps the highlights first and {}.</source>
        <translation>Nichts, was diese Kamera bietet, fasst die Szene; dies hält zuerst die Lichter und {}.</translation>
    </message>
    <message>
        <source>Nothing yet.</source>
        <translation>Noch nichts.</translation>
    </message>
    <message>
        <source>Now %1 minutes, brackets included; type others, or 0</source>
        <translation>Jetzt %L1 Minuten, Reihen eingeschlossen; andere eingeben oder 0</translation>
    </message>
    <message>
        <source>Now: {}, in its light until {}.</source>
        <translation>Jetzt: {}, in seinem Licht bis {}.</translation>
    </message>
    <message>
        <source>Of frame {} nothing came from the camera; look at its screen, and shoot what is missing.</source>
        <translation>Von Aufnahme {} kam nichts aus der Kamera; auf ihren Bildschirm sehen und aufnehmen, was fehlt.</translation>
    </message>
    <message>
        <source>Of {} views combined from more than three frames, in {} no more than three said anything.</source>
        <translation>Von {} Motiven aus mehr als drei Aufnahmen sagten in {} nicht mehr als drei etwas aus.</translation>
    </message>
    <message>
        <source>Off</source>
        <translation>Aus</translation>
    </message>
    <message>
        <source>On a tripod it may set the picture moving.</source>
        <translation>Auf dem Stativ kann er das Bild in Bewegung setzen.</translation>
    </message>
    <message>
        <source>On location a spoiled frame costs half a minute. At home it costs the picture.</source>
        <translation>Vor Ort kostet eine verdorbene Aufnahme eine halbe Minute. Zu Hause kostet sie das Bild.</translation>
    </message>
    <message>
        <source>On paper</source>
        <translation>Auf Papier</translation>
    </message>
    <message>
        <source>On the camera, in this order</source>
        <translation>An der Kamera, in dieser Reihenfolge</translation>
    </message>
    <message>
        <source>On the picture: arrows move the cross (Shift: finely) or go from place to place, Return presses and lets go, Ctrl with arrows moves the enlarged picture, Alt with left and right the divider. On the Ladder: up and down choose a frame or a tie, Shift with them pulls the tie. B, while held: the exposure instead of the finish.</source>
        <translation>Auf dem Bild: Pfeile bewegen das Kreuz (Umschalt: fein) oder gehen von Stelle zu Stelle, Eingabe drückt und lässt los, Strg mit Pfeilen bewegt das vergrößerte Bild, Alt mit links und rechts den Teiler. Auf der Lichtleiter: auf und ab wählen eine Aufnahme oder ein Band, mit Umschalt ziehen sie das Band. B, solange gehalten: die Belichtung statt der Ausarbeitung.</translation>
    </message>
    <message>
        <source>On to Combine</source>
        <translation>Weiter: Vereinen</translation>
    </message>
    <message>
        <source>On to Deliver</source>
        <translation>Weiter: Liefern</translation>
    </message>
    <message>
        <source>On to Finish</source>
        <translation>Weiter: Ausarbeiten</translation>
    </message>
    <message>
        <source>On to Frames</source>
        <translation>Weiter: Planen</translation>
    </message>
    <message>
        <source>On to Shoot</source>
        <translation>Zur Kamera</translation>
    </message>
    <message>
        <source>One</source>
        <translation>Eine</translation>
    </message>
    <message>
        <source>One bracket takes {:.0f} s; in that time the light {} by {:.2f} stop ({:.2f} a minute).</source>
        <translation>Eine Reihe dauert {:.0Lf} s; in dieser Zeit {} das Licht um {:.2Lf} Blende ({:.2Lf} je Minute).</translation>
    </message>
    <message>
        <source>One exposure</source>
        <translation>Eine Belichtung</translation>
    </message>
    <message>
        <source>One file could not be written; Why says what to do, then go on.</source>
        <translation>Eine Datei konnte nicht geschrieben werden; „Warum“ sagt, was zu tun ist, dann geht es weiter.</translation>
    </message>
    <message>
        <source>One file is left out: {}</source>
        <translation>Eine Datei bleibt weg: {}</translation>
    </message>
    <message>
        <source>One file is still to be written; you can work on another view meanwhile.</source>
        <translation>Eine Datei ist noch zu schreiben; inzwischen kann man an einem anderen Motiv arbeiten.</translation>
    </message>
    <message>
        <source>One file is written and read back.</source>
        <translation>Eine Datei ist geschrieben und zurückgelesen.</translation>
    </message>
    <message>
        <source>One file lies in the job's folder for this view; the picture has not changed since.</source>
        <translation>Eine Datei dieses Motivs liegt im Ordner des Auftrags; das Bild ist seither gleich geblieben.</translation>
    </message>
    <message>
        <source>One file still waits to be written; at Deliver it goes on.</source>
        <translation>Eine Datei wartet noch auf das Schreiben; bei „Liefern“ geht es weiter.</translation>
    </message>
    <message>
        <source>One file waits to be written; go on when you like.</source>
        <translation>Eine Datei wartet auf das Schreiben; weiter, wann immer es passt.</translation>
    </message>
    <message>
        <source>One frame</source>
        <translation>Eine Aufnahme</translation>
    </message>
    <message>
        <source>One frame as it is</source>
        <translation>Eine Aufnahme, wie sie ist</translation>
    </message>
    <message>
        <source>One frame at {}</source>
        <translation>Eine Aufnahme mit {}</translation>
    </message>
    <message>
        <source>One frame at {} is on disk and nothing is wrong with it.</source>
        <translation>Eine Aufnahme mit {} ist auf der Platte, und nichts ist daran auszusetzen.</translation>
    </message>
    <message>
        <source>One frame at {} is taken as it is</source>
        <translation>Eine Aufnahme mit {} ist genommen, wie sie ist</translation>
    </message>
    <message>
        <source>One frame holds the whole range; its worst tone has SNR {:.0f}.</source>
        <translation>Eine Aufnahme hält den ganzen Umfang; ihr schlechtester Ton hat SNR {:.0Lf}.</translation>
    </message>
    <message>
        <source>One frame is not like the others</source>
        <translation>Eine Aufnahme ist anders als die anderen</translation>
    </message>
    <message>
        <source>One of your own.</source>
        <translation>Eine eigene.</translation>
    </message>
    <message>
        <source>One other view takes this finish; it keeps its own white point, shape and placement.</source>
        <translation>Ein anderes Motiv bekommt diese Ausarbeitung; es behält Weißpunkt, Form und Lage der Töne.</translation>
    </message>
    <message>
        <source>One page to carry: settings, shots, checklist; PDF, PNG, CSV, JSON</source>
        <translation>Eine Seite zum Mitnehmen: Einstellungen, Aufnahmen, Merkliste; PDF, PNG, CSV, JSON</translation>
    </message>
    <message>
        <source>One position cannot be joined to another; name at least two.</source>
        <translation>Eine Position allein lässt sich mit nichts verbinden; mindestens zwei nennen.</translation>
    </message>
    <message>
        <source>One raw</source>
        <translation>Ein Raw</translation>
    </message>
    <message>
        <source>One raw would do: at {} it holds everything, with SNR {:.0f} in the darkest reading.</source>
        <translation>Ein Raw würde reichen: Bei {} hält es alles, mit SNR {:.0Lf} in der dunkelsten Messung.</translation>
    </message>
    <message>
        <source>One raw would not do: even its shortest time clips the brightest {}.</source>
        <translation>Ein Raw würde nicht reichen: Selbst seine kürzeste Zeit lässt die hellsten {} ausfressen.</translation>
    </message>
    <message>
        <source>One raw would not do: with the highlights held at {}, the darkest {} lie below SNR {:g}; the darkest reading has SNR {:.1f}.</source>
        <translation>Ein Raw würde nicht reichen: Werden die Lichter bei {} gehalten, liegen die dunkelsten {} unter SNR {:Lg}; die dunkelste Messung hat SNR {:.1Lf}.</translation>
    </message>
    <message>
        <source>One set holds one position; join several with `assemble`.</source>
        <translation>Ein Satz hält eine Position; mehrere verbindet `assemble`.</translation>
    </message>
    <message>
        <source>One sphere of {} x {} pixels ({}). {}</source>
        <translation>Eine Kugel mit {} x {} Pixeln ({}). {}</translation>
    </message>
    <message>
        <source>One stop down</source>
        <translation>Eine Blende darunter</translation>
    </message>
    <message>
        <source>One view</source>
        <translation>Ein Motiv</translation>
    </message>
    <message>
        <source>One visit is in %1.</source>
        <translation>Ein Termin liegt in %L1.</translation>
    </message>
    <message>
        <source>Only light of this reading and brighter</source>
        <translation>Nur Licht von dieser Messung an aufwärts</translation>
    </message>
    <message>
        <source>Only light up to this reading</source>
        <translation>Nur Licht bis zu dieser Messung</translation>
    </message>
    <message>
        <source>Only profiles of your own can be removed.</source>
        <translation>Nur eigene Profile lassen sich entfernen.</translation>
    </message>
    <message>
        <source>Only the time may change from frame to frame: another aperture moves the zone of focus.</source>
        <translation>Nur die Zeit darf von Aufnahme zu Aufnahme wechseln: Eine andere Blende verschiebt den Schärfebereich.</translation>
    </message>
    <message>
        <source>Only where obvious</source>
        <translation>Nur wo offensichtlich</translation>
    </message>
    <message>
        <source>Only {:.0f} % of it overlaps {}, too little to join them. Turn back by {:.0f} degrees and shoot it again.</source>
        <translation>Nur {:.0Lf} % davon überlappen {}, zu wenig zum Verbinden. Um {:.0Lf} Grad zurückdrehen und noch einmal aufnehmen.</translation>
    </message>
    <message>
        <source>Open a job...</source>
        <translation>Auftrag öffnen...</translation>
    </message>
    <message>
        <source>Open lately</source>
        <translation>Zuletzt geöffnet</translation>
    </message>
    <message>
        <source>Open the aperture, light the room, or accept noise below SNR {:g} there.</source>
        <translation>Aufblenden, den Raum beleuchten oder dort Rauschen unter SNR {:Lg} hinnehmen.</translation>
    </message>
    <message>
        <source>Open the ferry house demo.</source>
        <translation>Das Bootshaus-Beispiel öffnen.</translation>
    </message>
    <message>
        <source>Open the folder</source>
        <translation>Ordner öffnen</translation>
    </message>
    <message>
        <source>Open the job</source>
        <translation>Auftrag öffnen</translation>
    </message>
    <message>
        <source>Open the view</source>
        <translation>Motiv öffnen</translation>
    </message>
    <message>
        <source>Open: a light room, whites without a cast</source>
        <translation>Offen: ein heller Raum, Weiß ohne Stich</translation>
    </message>
    <message>
        <source>OpenEXR, the radiance itself</source>
        <translation>OpenEXR, die Strahldichte selbst</translation>
    </message>
    <message>
        <source>Or type one: EV, 1/125 f/8 ISO 100, or cd/m2</source>
        <translation>Oder eingeben: EV, 1/125 f/8 ISO 100 oder cd/m2</translation>
    </message>
    <message>
        <source>Order</source>
        <translation>Reihenfolge</translation>
    </message>
    <message>
        <source>Order of the frames</source>
        <translation>Reihenfolge der Aufnahmen</translation>
    </message>
    <message>
        <source>Oval</source>
        <translation>Oval</translation>
    </message>
    <message>
        <source>Over the limit of %1 s: half the points.</source>
        <translation>Über der Frist von %L1 s: die halben Punkte.</translation>
    </message>
    <message>
        <source>Overlap</source>
        <translation>Überlappung</translation>
    </message>
    <message>
        <source>Own</source>
        <translation>Eigene</translation>
    </message>
    <message>
        <source>Own view</source>
        <translation>Eigenes Motiv</translation>
    </message>
    <message>
        <source>PDF (*.pdf)</source>
        <translation>PDF (*.pdf)</translation>
    </message>
    <message>
        <source>Pages (Markdown)...</source>
        <translation>Seiten (Markdown)...</translation>
    </message>
    <message>
        <source>Paint an area; it ends at the picture's own edges</source>
        <translation>Einen Bereich malen; er endet an den Kanten des Bildes</translation>
    </message>
    <message>
        <source>Paint from</source>
        <translation>Malen aus</translation>
    </message>
    <message>
        <source>Paint on the picture what comes from one frame. Without it, a click on an outlined place takes it from the next frame</source>
        <translation>Auf dem Bild malen, was aus einer Aufnahme kommt. Ohne das nimmt ein Klick auf eine umrandete Stelle sie aus der nächsten Aufnahme</translation>
    </message>
    <message>
        <source>Panorama</source>
        <translation>Panorama</translation>
    </message>
    <message>
        <source>Panorama, lens shift, planes of focus</source>
        <translation>Panorama, verschobenes Objektiv, Schärfeebenen</translation>
    </message>
    <message>
        <source>Paper, stops</source>
        <translation>Papier, Blenden</translation>
    </message>
    <message>
        <source>Paper: light grey</source>
        <translation>Papier: hellgrau</translation>
    </message>
    <message>
        <source>Patterns over what is at white or at black (X)</source>
        <translation>Muster über allem, was weiß oder schwarz ist (X)</translation>
    </message>
    <message>
        <source>Pause</source>
        <translation>Pause</translation>
    </message>
    <message>
        <source>Perspective</source>
        <translation>Perspektive</translation>
    </message>
    <message>
        <source>Picture</source>
        <translation>Bild</translation>
    </message>
    <message>
        <source>Picture %1</source>
        <translation>Bild %L1</translation>
    </message>
    <message>
        <source>Picture {} is {}</source>
        <translation>Bild {} ist {}</translation>
    </message>
    <message>
        <source>Pictures</source>
        <translation>Bilder</translation>
    </message>
    <message>
        <source>Pink</source>
        <translation>Rosa</translation>
    </message>
    <message>
        <source>Pitch</source>
        <translation>Neigung</translation>
    </message>
    <message>
        <source>Pixel by pixel, or the whole picture</source>
        <translation>Pixel für Pixel oder das ganze Bild</translation>
    </message>
    <message>
        <source>Pixel by pixel, or the whole picture (P); the wheel enlarges at the pointer</source>
        <translation>Pixel für Pixel oder das ganze Bild (P); das Mausrad vergrößert am Zeiger</translation>
    </message>
    <message>
        <source>Pixel pitch, um</source>
        <translation>Pixelabstand, um</translation>
    </message>
    <message>
        <source>Place</source>
        <translation>Ort</translation>
    </message>
    <message>
        <source>Place %1 of %2, from frame %3</source>
        <translation>Stelle %L1 von %L2, aus Aufnahme %L3</translation>
    </message>
    <message>
        <source>Place from the frames</source>
        <translation>Ort aus den Aufnahmen</translation>
    </message>
    <message>
        <source>Place the light</source>
        <translation>Das Licht legen</translation>
    </message>
    <message>
        <source>Place the positions</source>
        <translation>Die Positionen anordnen</translation>
    </message>
    <message>
        <source>Places</source>
        <translation>Stellen</translation>
    </message>
    <message>
        <source>Plan</source>
        <translation>Plan</translation>
    </message>
    <message>
        <source>Plan a view that is not in the job yet</source>
        <translation>Ein Motiv planen, das noch nicht im Auftrag ist</translation>
    </message>
    <message>
        <source>Plan again from now</source>
        <translation>Neu ab jetzt</translation>
    </message>
    <message>
        <source>Plane of focus</source>
        <translation>Schärfeebene</translation>
    </message>
    <message>
        <source>Planes</source>
        <translation>Ebenen</translation>
    </message>
    <message>
        <source>Planes of focus</source>
        <translation>Schärfeebenen</translation>
    </message>
    <message>
        <source>Planes of focus at each position</source>
        <translation>Schärfeebenen an jeder Position</translation>
    </message>
    <message>
        <source>Planned again with the times that %1 has. Ready for %2: %3.</source>
        <translation>Neu geplant mit den Zeiten, die %L1 hat. Bereit für %L2: %L3.</translation>
    </message>
    <message>
        <source>Planned: {}</source>
        <translation>Geplant: {}</translation>
    </message>
    <message>
        <source>Plans, shoots, combines and finishes exposure brackets.</source>
        <translation>Plant Belichtungsreihen, nimmt sie auf, vereint sie und arbeitet sie aus.</translation>
    </message>
    <message>
        <source>Position %1 of %2 (%3)</source>
        <translation>Position %L1 von %L2 (%L3)</translation>
    </message>
    <message>
        <source>Position %1, %2: %3</source>
        <translation>Position %L1, %L2: %L3</translation>
    </message>
    <message>
        <source>Position %1: %2</source>
        <translation>Position %L1: %L2</translation>
    </message>
    <message>
        <source>Position of the view before</source>
        <translation>Position des Motivs davor</translation>
    </message>
    <message>
        <source>Position {} (`{}`)</source>
        <translation>Position {} (`{}`)</translation>
    </message>
    <message>
        <source>Positions</source>
        <translation>Positionen</translation>
    </message>
    <message>
        <source>Positions of the camera: turned, or its lens shifted</source>
        <translation>Positionen der Kamera: gedreht oder mit verschobenem Objektiv</translation>
    </message>
    <message>
        <source>Positions that are joined</source>
        <translation>Verbundene Positionen</translation>
    </message>
    <message>
        <source>Practice room</source>
        <translation>Übungsraum</translation>
    </message>
    <message>
        <source>Practice. %1</source>
        <translation>Übung. %L1</translation>
    </message>
    <message>
        <source>Practice: "%1" will happen during the next set.</source>
        <translation>Übung: „%L1“ wird im nächsten Satz geschehen.</translation>
    </message>
    <message>
        <source>Practice: %1</source>
        <translation>Übung: %L1</translation>
    </message>
    <message>
        <source>Practice: the first path</source>
        <translation>Übung: der erste Weg</translation>
    </message>
    <message>
        <source>Practise</source>
        <translation>Üben</translation>
    </message>
    <message>
        <source>Practise in the ferry house</source>
        <translation>Im Bootshaus üben</translation>
    </message>
    <message>
        <source>Practise the first ten minutes</source>
        <translation>Die ersten zehn Minuten üben</translation>
    </message>
    <message>
        <source>Practise: %1</source>
        <translation>%L1 üben</translation>
    </message>
    <message>
        <source>Practise: let it happen</source>
        <translation>Üben: geschehen lassen</translation>
    </message>
    <message>
        <source>Preferences</source>
        <translation>Einstellungen</translation>
    </message>
    <message>
        <source>Preferences...</source>
        <translation>Einstellungen...</translation>
    </message>
    <message>
        <source>Press Shoot, and wait for what the field check says.</source>
        <translation>„Aufnehmen“ drücken und abwarten, was die Prüfung sagt.</translation>
    </message>
    <message>
        <source>Previous view</source>
        <translation>Voriges Motiv</translation>
    </message>
    <message>
        <source>Print the field card...</source>
        <translation>Merkzettel drucken...</translation>
    </message>
    <message>
        <source>Print the sheet of all views...</source>
        <translation>Übersicht aller Motive drucken...</translation>
    </message>
    <message>
        <source>Profiles (*.json)</source>
        <translation>Profile (*.json)</translation>
    </message>
    <message>
        <source>Proportions of the part that is kept; they lie or stand as the picture or the drag does</source>
        <translation>Seitenverhältnis des Teils, der bleibt; es liegt oder steht, wie das Bild oder der Zug es tut</translation>
    </message>
    <message>
        <source>Put in another card</source>
        <translation>Andere Karte einlegen</translation>
    </message>
    <message>
        <source>Put the frames closer together, or add one between them.</source>
        <translation>Die Aufnahmen enger setzen oder eine dazwischen einfügen.</translation>
    </message>
    <message>
        <source>Put the settings right</source>
        <translation>Die Einstellungen richtigstellen</translation>
    </message>
    <message>
        <source>Puts the worst finding right (M)</source>
        <translation>Richtet den schwersten Befund (M)</translation>
    </message>
    <message>
        <source>Quiet shadows</source>
        <translation>Ruhige Schatten</translation>
    </message>
    <message>
        <source>Quiet the noise</source>
        <translation>Das Rauschen beruhigen</translation>
    </message>
    <message>
        <source>Quiet the shadows</source>
        <translation>Die Schatten beruhigen</translation>
    </message>
    <message>
        <source>Quiet: softer contrast, calm colour</source>
        <translation>Ruhig: weicherer Kontrast, stille Farbe</translation>
    </message>
    <message>
        <source>Quit</source>
        <translation>Beenden</translation>
    </message>
    <message>
        <source>Ramp</source>
        <translation>Verlauf</translation>
    </message>
    <message>
        <source>Range of light, by kind of view</source>
        <translation>Umfang des Lichts, nach Art des Motivs</translation>
    </message>
    <message>
        <source>Raw</source>
        <translation>Raw</translation>
    </message>
    <message>
        <source>Raw files: pairs of an even wall at several times, and a pair with the cap on</source>
        <translation>Raw-Dateien: Paare einer gleichmäßigen Wand bei mehreren Zeiten und ein Paar mit Deckel</translation>
    </message>
    <message>
        <source>Raw keeps the range of the sensor.</source>
        <translation>Raw behält den Umfang des Sensors.</translation>
    </message>
    <message>
        <source>Read a spot</source>
        <translation>Einen Punkt messen</translation>
    </message>
    <message>
        <source>Read all jobs again</source>
        <translation>Alle Aufträge neu lesen</translation>
    </message>
    <message>
        <source>Read at each position</source>
        <translation>An jeder Position gemessen</translation>
    </message>
    <message>
        <source>Read frames</source>
        <translation>Aufnahmen lesen</translation>
    </message>
    <message>
        <source>Read noise, electrons</source>
        <translation>Ausleserauschen, Elektronen</translation>
    </message>
    <message>
        <source>Read the light here</source>
        <translation>Hier das Licht messen</translation>
    </message>
    <message>
        <source>Read the marked spots by eye, as EV at ISO 100, from how bright they stand in a picture of known exposure.</source>
        <translation>Die markierten Punkte nach Augenmaß messen, als EV bei ISO 100, danach, wie hell sie in einem Bild bekannter Belichtung stehen.</translation>
    </message>
    <message>
        <source>Read the radiance</source>
        <translation>Die Strahldichte lesen</translation>
    </message>
    <message>
        <source>Read what the files say</source>
        <translation>Lesen, was die Dateien sagen</translation>
    </message>
    <message>
        <source>Readings that must keep texture: EV %1 to EV %2, with %3 of margin above the brightest.</source>
        <translation>Messungen, die Zeichnung behalten müssen: EV %L1 bis EV %L2, mit %L3 Reserve über der hellsten.</translation>
    </message>
    <message>
        <source>Readings; ticked ones must keep texture</source>
        <translation>Messungen; angekreuzte müssen Zeichnung behalten</translation>
    </message>
    <message>
        <source>Ready for %1: %2.</source>
        <translation>Bereit für %L1: %L2.</translation>
    </message>
    <message>
        <source>Recommended.</source>
        <translation>Empfohlen.</translation>
    </message>
    <message>
        <source>Red fringes</source>
        <translation>Rote Säume</translation>
    </message>
    <message>
        <source>Redo</source>
        <translation>Wiederholen</translation>
    </message>
    <message>
        <source>Redo %1 (Ctrl+Shift+Z)</source>
        <translation>%L1 wiederholen (Strg+Umschalt+Z)</translation>
    </message>
    <message>
        <source>Release</source>
        <translation>Auslösen</translation>
    </message>
    <message>
        <source>Remove</source>
        <translation>Entfernen</translation>
    </message>
    <message>
        <source>Remove %1</source>
        <translation>%L1 entfernen</translation>
    </message>
    <message>
        <source>Remove this reading</source>
        <translation>Diese Messung entfernen</translation>
    </message>
    <message>
        <source>Remove way %1</source>
        <translation>Weg %L1 entfernen</translation>
    </message>
    <message>
        <source>Removed.</source>
        <translation>Entfernt.</translation>
    </message>
    <message>
        <source>Removes the chosen area</source>
        <translation>Entfernt den gewählten Bereich</translation>
    </message>
    <message>
        <source>Rename the view...</source>
        <translation>Motiv umbenennen...</translation>
    </message>
    <message>
        <source>Rename...	F2</source>
        <translation>Umbenennen...	F2</translation>
    </message>
    <message>
        <source>Repeat</source>
        <translation>Wiederholung</translation>
    </message>
    <message>
        <source>Repeat frame {}</source>
        <translation>Aufnahme {} wiederholen</translation>
    </message>
    <message>
        <source>Repeat frame {} at {}</source>
        <translation>Aufnahme {} mit {} wiederholen</translation>
    </message>
    <message>
        <source>Repeat {} frames</source>
        <translation>{} Aufnahmen wiederholen</translation>
    </message>
    <message>
        <source>Reset</source>
        <translation>Zurücksetzen</translation>
    </message>
    <message>
        <source>Rights</source>
        <translation>Rechte</translation>
    </message>
    <message>
        <source>Ripples on water</source>
        <translation>Gekräuseltes Wasser</translation>
    </message>
    <message>
        <source>Roll</source>
        <translation>Rollen</translation>
    </message>
    <message>
        <source>Row</source>
        <translation>Reihe</translation>
    </message>
    <message>
        <source>Row %1, column %2; overlaps a neighbour by %3 %; lies within %4 pixels</source>
        <translation>Reihe %L1, Spalte %L2; überlappt eine Nachbarin um %L3 %; liegt auf %L4 Pixel genau</translation>
    </message>
    <message>
        <source>S</source>
        <translation>S</translation>
    </message>
    <message>
        <source>SNR </source>
        <translation>SNR </translation>
    </message>
    <message>
        <source>SNR %1</source>
        <translation>SNR %L1</translation>
    </message>
    <message>
        <source>SNR 10</source>
        <translation>SNR 10</translation>
    </message>
    <message>
        <source>SNR 20</source>
        <translation>SNR 20</translation>
    </message>
    <message>
        <source>SNR 40</source>
        <translation>SNR 40</translation>
    </message>
    <message>
        <source>SNR of all frames together, over the light</source>
        <translation>SNR aller Aufnahmen zusammen, über das Licht</translation>
    </message>
    <message>
        <source>SNR of the merged bracket</source>
        <translation>SNR der vereinten Reihe</translation>
    </message>
    <message>
        <source>Same exposure at every position; check focus at each</source>
        <translation>An jeder Position dieselbe Belichtung; an jeder die Schärfe prüfen</translation>
    </message>
    <message>
        <source>Save</source>
        <translation>Sichern</translation>
    </message>
    <message>
        <source>Scores: a third of a stop is right, two stops are nothing; 70 points pass.</source>
        <translation>Punkte: ein Drittel einer Blende ist richtig, zwei Blenden sind nichts; 70 Punkte genügen.</translation>
    </message>
    <message>
        <source>Search the commands</source>
        <translation>Befehle durchsuchen</translation>
    </message>
    <message>
        <source>Search the guide</source>
        <translation>Anleitung durchsuchen</translation>
    </message>
    <message>
        <source>Second run</source>
        <translation>Zweiter Durchgang</translation>
    </message>
    <message>
        <source>Seconds</source>
        <translation>Sekunden</translation>
    </message>
    <message>
        <source>Sensor width, mm</source>
        <translation>Sensorbreite, mm</translation>
    </message>
    <message>
        <source>Set</source>
        <translation>Satz</translation>
    </message>
    <message>
        <source>Set aside</source>
        <translation>Beiseitelegen</translation>
    </message>
    <message>
        <source>Set aside.</source>
        <translation>Beiseitegelegt.</translation>
    </message>
    <message>
        <source>Set level</source>
        <translation>Waagerecht stellen</translation>
    </message>
    <message>
        <source>Set of %1</source>
        <translation>Satz von %L1</translation>
    </message>
    <message>
        <source>Set plumb</source>
        <translation>Ins Lot stellen</translation>
    </message>
    <message>
        <source>Set raw on the camera; what it writes is taken</source>
        <translation>Raw an der Kamera einstellen; genommen wird, was sie schreibt</translation>
    </message>
    <message>
        <source>Set the aperture to {}{}.</source>
        <translation>Die Blende auf {} stellen{}.</translation>
    </message>
    <message>
        <source>Set the time to {} on the camera.</source>
        <translation>Die Zeit an der Kamera auf {} stellen.</translation>
    </message>
    <message>
        <source>Set the verticals plumb</source>
        <translation>Die Senkrechten ins Lot stellen</translation>
    </message>
    <message>
        <source>Set {} at minute {:.1f}: </source>
        <translation>Satz {} in Minute {:.1Lf}: </translation>
    </message>
    <message>
        <source>Set {} of {}</source>
        <translation>Satz {} von {}</translation>
    </message>
    <message>
        <source>Set {}{}.</source>
        <translation>{} einstellen{}.</translation>
    </message>
    <message>
        <source>Sets</source>
        <translation>Sätze</translation>
    </message>
    <message>
        <source>Sets and their frames</source>
        <translation>Sätze und ihre Aufnahmen</translation>
    </message>
    <message>
        <source>Sets at an interval</source>
        <translation>Sätze in Abständen</translation>
    </message>
    <message>
        <source>Sets at an interval...</source>
        <translation>Sätze in Abständen...</translation>
    </message>
    <message>
        <source>Sets that were shot</source>
        <translation>Aufgenommene Sätze</translation>
    </message>
    <message>
        <source>Seven</source>
        <translation>Sieben</translation>
    </message>
    <message>
        <source>Seven at 1 stop</source>
        <translation>Sieben zu 1 Blende</translation>
    </message>
    <message>
        <source>Seven frames</source>
        <translation>Sieben Aufnahmen</translation>
    </message>
    <message>
        <source>Shadows</source>
        <translation>Tiefen</translation>
    </message>
    <message>
        <source>Shadows of new jobs</source>
        <translation>Schatten neuer Aufträge</translation>
    </message>
    <message>
        <source>Sharp</source>
        <translation>Scharf</translation>
    </message>
    <message>
        <source>Sharp frames from the hand</source>
        <translation>Scharfe Aufnahmen aus der Hand</translation>
    </message>
    <message>
        <source>Sharpness</source>
        <translation>Schärfung</translation>
    </message>
    <message>
        <source>Sheet (PDF)</source>
        <translation>Übersicht (PDF)</translation>
    </message>
    <message>
        <source>Sheet to take along</source>
        <translation>Mitnehmblatt</translation>
    </message>
    <message>
        <source>Sheet: {}</source>
        <translation>Übersicht: {}</translation>
    </message>
    <message>
        <source>Shift and rotation</source>
        <translation>Verschiebung und Drehung</translation>
    </message>
    <message>
        <source>Shift only</source>
        <translation>Nur Verschiebung</translation>
    </message>
    <message>
        <source>Ships with the program: plausible figures, not measured. "Measure" derives full well and read noise from your own raw files: shoot an evenly lit wall twice at each of four or more times, and twice with the cap on, all at base ISO.</source>
        <translation>Mitgeliefert: glaubhafte Zahlen, nicht gemessen. „Messen“ leitet Sättigung und Ausleserauschen aus eigenen Raw-Dateien ab: eine gleichmäßig beleuchtete Wand zweimal bei je vier oder mehr Zeiten aufnehmen und zweimal mit Deckel, alles bei Grund-ISO.</translation>
    </message>
    <message>
        <source>Shoot</source>
        <translation>Aufnehmen</translation>
    </message>
    <message>
        <source>Shoot %1 with the camera; the watched folder takes it.</source>
        <translation>%L1 mit der Kamera aufnehmen; der beobachtete Ordner nimmt es.</translation>
    </message>
    <message>
        <source>Shoot a second, darker set for the highlights; for the shadows open the aperture, light the room, or accept noise below SNR {:g} there.</source>
        <translation>Für die Lichter einen zweiten, dunkleren Satz aufnehmen; für die Schatten aufblenden, den Raum beleuchten oder dort Rauschen unter SNR {:Lg} hinnehmen.</translation>
    </message>
    <message>
        <source>Shoot a second, darker set, or let the brightest reading clip.</source>
        <translation>Einen zweiten, dunkleren Satz aufnehmen oder die hellste Messung ausfressen lassen.</translation>
    </message>
    <message>
        <source>Shoot a set</source>
        <translation>Einen Satz aufnehmen</translation>
    </message>
    <message>
        <source>Shoot again</source>
        <translation>Neu aufnehmen</translation>
    </message>
    <message>
        <source>Shoot one at {}</source>
        <translation>Eine mit {} aufnehmen</translation>
    </message>
    <message>
        <source>Shoot one frame at the finder's exposure and read it (T)</source>
        <translation>Eine Aufnahme mit der Belichtung des Suchers machen und auswerten (T)</translation>
    </message>
    <message>
        <source>Shoot position %1</source>
        <translation>Position %L1 aufnehmen</translation>
    </message>
    <message>
        <source>Shoot position %1 again</source>
        <translation>Position %L1 neu aufnehmen</translation>
    </message>
    <message>
        <source>Shoot the missing frame</source>
        <translation>Die fehlende aufnehmen</translation>
    </message>
    <message>
        <source>Shoot the set again</source>
        <translation>Den Satz neu aufnehmen</translation>
    </message>
    <message>
        <source>Shoot the window with flash</source>
        <translation>Das Fenster mit Blitz aufnehmen</translation>
    </message>
    <message>
        <source>Shoot the {} missing</source>
        <translation>Die {} fehlenden aufnehmen</translation>
    </message>
    <message>
        <source>Shoot {} darker</source>
        <translation>{} dunklere aufnehmen</translation>
    </message>
    <message>
        <source>Shortest time</source>
        <translation>Kürzeste Zeit</translation>
    </message>
    <message>
        <source>Shot</source>
        <translation>Aufgenommen</translation>
    </message>
    <message>
        <source>Show the figures behind this sentence</source>
        <translation>Die Zahlen hinter diesem Satz zeigen</translation>
    </message>
    <message>
        <source>Show the whole picture</source>
        <translation>Das ganze Bild zeigen</translation>
    </message>
    <message>
        <source>Simulated camera</source>
        <translation>Nachgebildete Kamera</translation>
    </message>
    <message>
        <source>Single</source>
        <translation>Einzeln</translation>
    </message>
    <message>
        <source>Six</source>
        <translation>Sechs</translation>
    </message>
    <message>
        <source>Size of the brush</source>
        <translation>Größe des Pinsels</translation>
    </message>
    <message>
        <source>Size of the spot</source>
        <translation>Größe des Messpunkts</translation>
    </message>
    <message>
        <source>Sky</source>
        <translation>Himmel</translation>
    </message>
    <message>
        <source>Sky and lamps were within a stop from minute {:.1f} to {:.1f}; the sky loses {:.2f} stop a minute.</source>
        <translation>Himmel und Lampen lagen von Minute {:.1Lf} bis {:.1Lf} innerhalb einer Blende; der Himmel verliert {:.2Lf} Blende je Minute.</translation>
    </message>
    <message>
        <source>Small contrast</source>
        <translation>Kleiner Kontrast</translation>
    </message>
    <message>
        <source>Small steps</source>
        <translation>Kleine Schritte</translation>
    </message>
    <message>
        <source>Smallest set</source>
        <translation>Kleinster Satz</translation>
    </message>
    <message>
        <source>Somebody used the camera</source>
        <translation>Jemand hat die Kamera benutzt</translation>
    </message>
    <message>
        <source>Somebody walks through</source>
        <translation>Jemand geht durchs Bild</translation>
    </message>
    <message>
        <source>Something moved in frame {}, {:.{}f} % of the picture: shoot it again, or choose one frame for it later.</source>
        <translation>In Aufnahme {} bewegte sich etwas, {:.{}Lf} % des Bildes: noch einmal aufnehmen oder später eine Aufnahme dafür wählen.</translation>
    </message>
    <message>
        <source>Sooner (Alt+Up)</source>
        <translation>Früher (Alt+Auf)</translation>
    </message>
    <message>
        <source>Sort a messy card</source>
        <translation>Eine unordentliche Karte sortieren</translation>
    </message>
    <message>
        <source>Sort the frames into sets</source>
        <translation>Die Aufnahmen in Sätze sortieren</translation>
    </message>
    <message>
        <source>Sound, or only nearly</source>
        <translation>In Ordnung oder nur beinahe</translation>
    </message>
    <message>
        <source>Space on the card</source>
        <translation>Platz auf der Karte</translation>
    </message>
    <message>
        <source>Spot %1</source>
        <translation>Punkt %L1</translation>
    </message>
    <message>
        <source>Spot {}</source>
        <translation>Punkt {}</translation>
    </message>
    <message>
        <source>Spot {} lies {:.0f} % from the left and {:.0f} % from the top.</source>
        <translation>Punkt {} liegt {:.0Lf} % von links und {:.0Lf} % von oben.</translation>
    </message>
    <message>
        <source>Spot {} was not read; it is EV {:.1f}.</source>
        <translation>Punkt {} wurde nicht gemessen; er hat EV {:.1Lf}.</translation>
    </message>
    <message>
        <source>Spot {}: EV {:.1f}, within a third of a stop.</source>
        <translation>Punkt {}: EV {:.1Lf}, auf ein Drittel genau.</translation>
    </message>
    <message>
        <source>Spot {}: EV {:.1f}; you read it {} too {}.</source>
        <translation>Punkt {}: EV {:.1Lf}; Sie lasen ihn {} zu {}.</translation>
    </message>
    <message>
        <source>Spread of the light inside the spot; %1 cd/m2 in the mean</source>
        <translation>Streuung des Lichts im Messpunkt; im Mittel %L1 cd/m2</translation>
    </message>
    <message>
        <source>Stabiliser</source>
        <translation>Stabilisator</translation>
    </message>
    <message>
        <source>Stabiliser, stops</source>
        <translation>Stabilisator, Blenden</translation>
    </message>
    <message>
        <source>Stands and ways</source>
        <translation>Standorte und Wege</translation>
    </message>
    <message>
        <source>Stands and ways...</source>
        <translation>Wege...</translation>
    </message>
    <message>
        <source>Start from</source>
        <translation>Ausgehen von</translation>
    </message>
    <message>
        <source>Starting point: %1.</source>
        <translation>Ausgangspunkt: %L1.</translation>
    </message>
    <message>
        <source>Station: %1</source>
        <translation>Station: %L1</translation>
    </message>
    <message>
        <source>Stations</source>
        <translation>Stationen</translation>
    </message>
    <message>
        <source>Stay {} longer, until {}.</source>
        <translation>{} länger bleiben, bis {}.</translation>
    </message>
    <message>
        <source>Step</source>
        <translation>Schritt</translation>
    </message>
    <message>
        <source>Stop</source>
        <translation>Anhalten</translation>
    </message>
    <message>
        <source>Stop watching</source>
        <translation>Beobachten beenden</translation>
    </message>
    <message>
        <source>Stopped; nothing was written.</source>
        <translation>Angehalten; nichts wurde geschrieben.</translation>
    </message>
    <message>
        <source>Stops apart</source>
        <translation>Blenden Abstand</translation>
    </message>
    <message>
        <source>Stops between frames</source>
        <translation>Blenden zwischen Aufnahmen</translation>
    </message>
    <message>
        <source>Straighten</source>
        <translation>Ausrichten</translation>
    </message>
    <message>
        <source>Switch lamps only; fittings and mains are for a licensed electrician.</source>
        <translation>Nur Lampen schalten; Leuchten und Netzspannung sind Sache einer Elektrofachkraft.</translation>
    </message>
    <message>
        <source>Switch on the camera's network connection for remote control and type the address that its screen shows, for instance 192.168.1.20, with :15740 behind it when it names a port.</source>
        <translation>An der Kamera die Netzverbindung zur Fernsteuerung einschalten und die Adresse eingeben, die ihr Bildschirm zeigt, etwa 192.168.1.20, dahinter :15740, wenn sie einen Port nennt.</translation>
    </message>
    <message>
        <source>TIFF</source>
        <translation>TIFF</translation>
    </message>
    <message>
        <source>TIFF for print, 16 bit, opRGB</source>
        <translation>TIFF für den Druck, 16 Bit, opRGB</translation>
    </message>
    <message>
        <source>Table (CSV)...</source>
        <translation>Tabelle (CSV)...</translation>
    </message>
    <message>
        <source>Tag</source>
        <translation>Stichwort</translation>
    </message>
    <message>
        <source>Tags</source>
        <translation>Stichwörter</translation>
    </message>
    <message>
        <source>Tags and lesson, in the job's own folder</source>
        <translation>Stichwörter und Lehre, im Ordner des Auftrags</translation>
    </message>
    <message>
        <source>Tags, with commas between</source>
        <translation>Stichwörter, durch Kommas getrennt</translation>
    </message>
    <message>
        <source>Take back</source>
        <translation>Zurücknehmen</translation>
    </message>
    <message>
        <source>Take back in</source>
        <translation>Wieder aufnehmen</translation>
    </message>
    <message>
        <source>Take both readings</source>
        <translation>Beide Messungen nehmen</translation>
    </message>
    <message>
        <source>Take care</source>
        <translation>Vorsicht</translation>
    </message>
    <message>
        <source>Take colours back</source>
        <translation>Farben zurücknehmen</translation>
    </message>
    <message>
        <source>Take drags back</source>
        <translation>Züge zurücknehmen</translation>
    </message>
    <message>
        <source>Take me there</source>
        <translation>Hinbringen</translation>
    </message>
    <message>
        <source>Take out</source>
        <translation>Heraus</translation>
    </message>
    <message>
        <source>Take out of the job	Del</source>
        <translation>Aus dem Auftrag nehmen	Del</translation>
    </message>
    <message>
        <source>Take the view out of the job</source>
        <translation>Das Motiv aus dem Auftrag nehmen</translation>
    </message>
    <message>
        <source>Take this place from frame %1, %2</source>
        <translation>Diese Stelle aus Aufnahme %L1, %L2 nehmen</translation>
    </message>
    <message>
        <source>Take {}</source>
        <translation>{} nehmen</translation>
    </message>
    <message>
        <source>Take {} for it instead of {}.</source>
        <translation>Dafür {} statt {} nehmen.</translation>
    </message>
    <message>
        <source>Takes back all single colours that were dragged</source>
        <translation>Nimmt alle einzeln gezogenen Farben zurück</translation>
    </message>
    <message>
        <source>Takes back what was dragged on the Ladder and in the picture</source>
        <translation>Nimmt zurück, was auf der Lichtleiter und im Bild gezogen wurde</translation>
    </message>
    <message>
        <source>Tasks</source>
        <translation>Aufgaben</translation>
    </message>
    <message>
        <source>Ten</source>
        <translation>Zehn</translation>
    </message>
    <message>
        <source>Ten frames from your hand show how long it holds.</source>
        <translation>Zehn Aufnahmen aus Ihrer Hand zeigen, wie lange sie hält.</translation>
    </message>
    <message>
        <source>Ten views of one kind whose light was read show its range.</source>
        <translation>Zehn Motive einer Art, deren Licht gemessen wurde, zeigen ihren Umfang.</translation>
    </message>
    <message>
        <source>Ten views that were worked on show a pace.</source>
        <translation>Zehn bearbeitete Motive zeigen ein Tempo.</translation>
    </message>
    <message>
        <source>Test frame</source>
        <translation>Probeaufnahme</translation>
    </message>
    <message>
        <source>Text</source>
        <translation>Text</translation>
    </message>
    <message>
        <source>Texture keeps {:.0f} % of the contrast that an exposure made for it would give{}.</source>
        <translation>Strukturen behalten {:.0Lf} % des Kontrasts, den eine eigens dafür gemachte Belichtung gäbe{}.</translation>
    </message>
    <message>
        <source>That is my answer</source>
        <translation>Das ist meine Antwort</translation>
    </message>
    <message>
        <source>That spot lies outside the picture.</source>
        <translation>Dieser Punkt liegt außerhalb des Bildes.</translation>
    </message>
    <message>
        <source>The Light Ladder shows each frame as a column, from its noise to its clipping. Together they must cover from corner to sky; more frames than that only cost time.</source>
        <translation>Die Lichtleiter zeigt jede Aufnahme als Säule, von ihrem Rauschen bis dahin, wo sie ausfrisst. Zusammen müssen sie von der Ecke bis zum Himmel reichen; mehr Aufnahmen kosten nur Zeit.</translation>
    </message>
    <message>
        <source>The Light Ladder.

Readings become pins, frames become columns, and what no frame records stays hatched.</source>
        <translation>Die Lichtleiter.</translation>
    </message>
    <message>
        <source>The answer is to another exercise.</source>
        <translation>Die Antwort gehört zu einer anderen Übung.</translation>
    </message>
    <message>
        <source>The area that the sliders change</source>
        <translation>Der Bereich, den die Regler ändern</translation>
    </message>
    <message>
        <source>The bracket records EV %1 to EV %2 at SNR %3 or better; the least is SNR %4 near EV %5.</source>
        <translation>Die Reihe zeichnet EV %L1 bis EV %L2 bei SNR %L3 oder besser auf; am kleinsten ist SNR %L4 bei EV %L5.</translation>
    </message>
    <message>
        <source>The brightest {} clip in your darkest frame.</source>
        <translation>Die hellsten {} fressen in Ihrer dunkelsten Aufnahme aus.</translation>
    </message>
    <message>
        <source>The calendar is in %1.</source>
        <translation>Der Kalender liegt in %L1.</translation>
    </message>
    <message>
        <source>The camera "{}" cannot be used: {}.</source>
        <translation>Die Kamera „{}“ ist nicht verwendbar: {}.</translation>
    </message>
    <message>
        <source>The camera did not answer for {} seconds and was given up; switch it off and on, and connect it again. What was shot is kept.</source>
        <translation>Die Kamera antwortete {} Sekunden lang nicht und wurde aufgegeben; aus- und einschalten und wieder verbinden. Was aufgenommen ist, bleibt.</translation>
    </message>
    <message>
        <source>The camera did not take {} for {} within {} seconds; look at its screen, and at the mode it is in.</source>
        <translation>Die Kamera nahm {} für {} nicht innerhalb von {} Sekunden an; auf ihren Bildschirm und auf ihre Betriebsart sehen.</translation>
    </message>
    <message>
        <source>The camera does not answer; see that it is on and awake, check cable, network and battery, and that no other program holds it, then connect it again{}.</source>
        <translation>Die Kamera antwortet nicht; nachsehen, dass sie an und wach ist, Kabel, Netz und Akku prüfen, und dass kein anderes Programm sie hält, dann wieder verbinden{}.</translation>
    </message>
    <message>
        <source>The camera is busy; look at its screen, then go on.</source>
        <translation>Die Kamera ist beschäftigt; auf ihren Bildschirm sehen, dann weitermachen.</translation>
    </message>
    <message>
        <source>The camera is gone</source>
        <translation>Die Kamera ist weg</translation>
    </message>
    <message>
        <source>The camera is gone; check cable and battery, and connect it again.</source>
        <translation>Die Kamera ist weg; Kabel und Akku prüfen und sie wieder verbinden.</translation>
    </message>
    <message>
        <source>The camera is gone; check cable and battery, connect it again and go on. What was shot is kept.</source>
        <translation>Die Kamera ist weg; Kabel und Akku prüfen, sie wieder verbinden und weitermachen. Was aufgenommen ist, bleibt.</translation>
    </message>
    <message>
        <source>The camera is gone; check cable, network and battery, connect it again and go on. What was shot is kept.</source>
        <translation>Die Kamera ist weg; Kabel, Netz und Akku prüfen, sie wieder verbinden und weitermachen. Was aufgenommen ist, bleibt.</translation>
    </message>
    <message>
        <source>The camera is not connected; check cable, network and battery, and connect it.</source>
        <translation>Die Kamera ist nicht verbunden; Kabel, Netz und Akku prüfen und sie verbinden.</translation>
    </message>
    <message>
        <source>The camera library cannot reach {}; it may lack its part for this connection (package libgphoto2-port12).</source>
        <translation>Die Kamerabibliothek erreicht {} nicht; vielleicht fehlt ihr der Teil für diese Verbindung (Paket libgphoto2-port12).</translation>
    </message>
    <message>
        <source>The camera library knows no "{}"; see docs/cameras.md how to report it.</source>
        <translation>Die Kamerabibliothek kennt keine „{}“; wie man das meldet, steht in docs/cameras.md.</translation>
    </message>
    <message>
        <source>The camera moved {:.0f} pixels before frame {}: combining can align that, but check column and head and shoot the set again.</source>
        <translation>Die Kamera bewegte sich vor Aufnahme {1} um {0:.0Lf} Pixel: Beim Vereinen lässt sich das ausrichten, aber Säule und Kopf prüfen und den Satz neu aufnehmen.</translation>
    </message>
    <message>
        <source>The camera profile cannot be kept: {}.</source>
        <translation>Das Kameraprofil kann nicht behalten werden: {}.</translation>
    </message>
    <message>
        <source>The camera profile cannot be used: {}.</source>
        <translation>Das Kameraprofil ist nicht verwendbar: {}.</translation>
    </message>
    <message>
        <source>The camera profile is not understood ({}).</source>
        <translation>Das Kameraprofil ist nicht verständlich ({}).</translation>
    </message>
    <message>
        <source>The camera refuses: {}.</source>
        <translation>Die Kamera lehnt ab: {}.</translation>
    </message>
    <message>
        <source>The camera refuses{}; look at its screen, and at the mode it is in.</source>
        <translation>Die Kamera lehnt ab{}; auf ihren Bildschirm und auf ihre Betriebsart sehen.</translation>
    </message>
    <message>
        <source>The camera stayed busy for {} seconds; look at its screen, then go on.</source>
        <translation>Die Kamera blieb {} Sekunden beschäftigt; auf ihren Bildschirm sehen, dann weitermachen.</translation>
    </message>
    <message>
        <source>The camera took {} for {} where {} was asked for; set its dial to manual (M) and go on.</source>
        <translation>Die Kamera nahm {} für {}, wo {} verlangt war; ihr Rad auf manuell (M) stellen und weitermachen.</translation>
    </message>
    <message>
        <source>The camera's battery is empty; change it and go on. What was shot is kept.</source>
        <translation>Der Akku der Kamera ist leer; wechseln und weitermachen. Was aufgenommen ist, bleibt.</translation>
    </message>
    <message>
        <source>The camera's battery is empty; change it.</source>
        <translation>Der Akku der Kamera ist leer; wechseln.</translation>
    </message>
    <message>
        <source>The camera's card is full; put in another and go on. What was shot is kept.</source>
        <translation>Die Karte der Kamera ist voll; eine andere einlegen und weitermachen. Was aufgenommen ist, bleibt.</translation>
    </message>
    <message>
        <source>The camera's curve cannot be kept: {}</source>
        <translation>Die Kennlinie der Kamera kann nicht behalten werden: {}</translation>
    </message>
    <message>
        <source>The camera's finder sent a picture that cannot be read; take a test frame instead.</source>
        <translation>Der Sucher der Kamera sandte ein unlesbares Bild; stattdessen eine Probeaufnahme machen.</translation>
    </message>
    <message>
        <source>The camera's response curve is the one kept from its earlier sets; this one says too little of it.</source>
        <translation>Die Kennlinie der Kamera ist die aus früheren Sätzen behaltene; dieser sagt zu wenig über sie.</translation>
    </message>
    <message>
        <source>The chosen views take the finish of the view in hand; each keeps its own white point, shape and placement</source>
        <translation>Die gewählten Motive bekommen die Ausarbeitung des Motivs in der Hand; jedes behält Weißpunkt, Form und Lage der Töne</translation>
    </message>
    <message>
        <source>The chosen views, one after the other</source>
        <translation>Die gewählten Motive, eines nach dem anderen</translation>
    </message>
    <message>
        <source>The curve of this set differs from the one kept for the camera by up to {:.1f} stop: another picture style? The set's own is used.</source>
        <translation>Die Kennlinie dieses Satzes weicht von der behaltenen um bis zu {:.1Lf} Blende ab: ein anderer Bildstil? Verwendet wird die des Satzes.</translation>
    </message>
    <message>
        <source>The darkest {} stay below the noise you allowed.</source>
        <translation>Die dunkelsten {} bleiben unter dem erlaubten Rauschen.</translation>
    </message>
    <message>
        <source>The deep shadow is still noise at {}, the camera's longest time: open the aperture or add light.</source>
        <translation>Der tiefe Schatten ist bei {}, der längsten Zeit der Kamera, noch Rauschen: aufblenden oder Licht hinzufügen.</translation>
    </message>
    <message>
        <source>The deep shadow is still noise in the brightest frame: shoot one more at {}.</source>
        <translation>Der tiefe Schatten ist in der hellsten Aufnahme noch Rauschen: noch eine mit {} aufnehmen.</translation>
    </message>
    <message>
        <source>The exercise is being prepared.</source>
        <translation>Die Übung wird vorbereitet.</translation>
    </message>
    <message>
        <source>The field check found "{}" in {} frames of {} checked views{}.</source>
        <translation>Die Prüfung vor Ort fand „{}“ in {} Aufnahmen von {} geprüften Motiven{}.</translation>
    </message>
    <message>
        <source>The file does not say how long it was exposed; its light is only relative.</source>
        <translation>Die Datei sagt nicht, wie lange sie belichtet wurde; ihr Licht gilt nur im Verhältnis.</translation>
    </message>
    <message>
        <source>The file name is empty; put {view} into it.</source>
        <translation>Der Dateiname ist leer; {view} hineinsetzen.</translation>
    </message>
    <message>
        <source>The file name knows {{job}}, {{view}}, {{number}}, {{date}}, {{target}}, {{width}} and {{height}}, but not `{{{}}}`.</source>
        <translation>Der Dateiname kennt {{job}}, {{view}}, {{number}}, {{date}}, {{target}}, {{width}} und {{height}}, aber nicht `{{{}}}`.</translation>
    </message>
    <message>
        <source>The files belong to {} spheres (`{}`, `{}`); name those of one.</source>
        <translation>Die Dateien gehören zu {} Kugeln (`{}`, `{}`); die einer einzigen nennen.</translation>
    </message>
    <message>
        <source>The files do not say how long they were exposed, and some share too few tones to tell from the picture: type the times.</source>
        <translation>Die Dateien sagen nicht, wie lange sie belichtet wurden, und manche haben zu wenige Töne gemeinsam, um es aus dem Bild zu lesen: die Zeiten eingeben.</translation>
    </message>
    <message>
        <source>The files do not say how long they were exposed, so that their steps cannot be checked; they are estimated from the picture.</source>
        <translation>Die Dateien sagen nicht, wie lange belichtet wurde; ihre Stufen sind daher nicht zu prüfen und werden aus dem Bild geschätzt.</translation>
    </message>
    <message>
        <source>The files do not say how long they were exposed; the steps between them are estimated from the picture. Type the times if you know them.</source>
        <translation>Die Dateien sagen nicht, wie lange sie belichtet wurden; die Schritte zwischen ihnen sind aus dem Bild geschätzt. Sind die Zeiten bekannt, eingeben.</translation>
    </message>
    <message>
        <source>The files lie in %1.</source>
        <translation>Die Dateien liegen in %L1.</translation>
    </message>
    <message>
        <source>The first ten minutes</source>
        <translation>Die ersten zehn Minuten</translation>
    </message>
    <message>
        <source>The flat frames do not suffice: at least two exposures between a twentieth and seven tenths of saturation are needed, two frames of each. Shoot an evenly lit wall at several times.</source>
        <translation>Die gleichmäßigen Aufnahmen reichen nicht: Nötig sind mindestens zwei Belichtungen zwischen einem Zwanzigstel und sieben Zehnteln der Sättigung, je zwei Aufnahmen. Eine gleichmäßig beleuchtete Wand bei mehreren Zeiten aufnehmen.</translation>
    </message>
    <message>
        <source>The folder `{}` cannot be made ({}); choose another place.</source>
        <translation>Der Ordner `{}` kann nicht angelegt werden ({}); einen anderen Ort wählen.</translation>
    </message>
    <message>
        <source>The folder `{}` has vanished; bring it back (the drive, the share) and go on.</source>
        <translation>Der Ordner `{}` ist verschwunden; zurückbringen (das Laufwerk, die Freigabe) und weitermachen.</translation>
    </message>
    <message>
        <source>The folder `{}` has vanished; bring it back (the drive, the share) and go on. What was shot is where it was.</source>
        <translation>Der Ordner `{}` ist verschwunden; zurückbringen (das Laufwerk, die Freigabe) und weitermachen. Was aufgenommen ist, liegt, wo es war.</translation>
    </message>
    <message>
        <source>The folder your camera's program writes to</source>
        <translation>Der Ordner, in den das Programm der Kamera schreibt</translation>
    </message>
    <message>
        <source>The frame that may darken the painted area is not among the frames; choose another.</source>
        <translation>Die Aufnahme, die den gemalten Bereich abdunkeln soll, ist nicht unter den Aufnahmen; eine andere wählen.</translation>
    </message>
    <message>
        <source>The frames cannot be joined by tone: {}.</source>
        <translation>Die Aufnahmen lassen sich nicht nach Tönen verbinden: {}.</translation>
    </message>
    <message>
        <source>The frames cannot be merged: {}.</source>
        <translation>Die Aufnahmen lassen sich nicht vereinen: {}.</translation>
    </message>
    <message>
        <source>The frames have changed since they were combined; combine again.</source>
        <translation>Die Aufnahmen haben sich geändert, seit sie vereint wurden; neu vereinen.</translation>
    </message>
    <message>
        <source>The frames show two fisheye circles of {:.0f} degrees; they were laid on a sphere, with {:.1f} pixels left between them where both look.</source>
        <translation>Die Aufnahmen zeigen zwei Fischaugenkreise von {:.0Lf} Grad; sie wurden auf eine Kugel gelegt, und wo beide hinsehen, bleiben {:.1Lf} Pixel zwischen ihnen.</translation>
    </message>
    <message>
        <source>The frames stay as they were; the recipe is kept, so that everything can be made again.</source>
        <translation>Die Aufnahmen bleiben, wie sie waren; das Rezept wird behalten, damit alles neu gemacht werden kann.</translation>
    </message>
    <message>
        <source>The guide is not installed</source>
        <translation>Die Anleitung ist nicht installiert</translation>
    </message>
    <message>
        <source>The head is turned too far</source>
        <translation>Der Kopf wird zu weit gedreht</translation>
    </message>
    <message>
        <source>The highlights have next to no room left; read the brightest spot again just before the set.</source>
        <translation>Die Lichter haben so gut wie keine Reserve; den hellsten Punkt kurz vor dem Satz noch einmal messen.</translation>
    </message>
    <message>
        <source>The interval ends here: the set is not complete.</source>
        <translation>Hier enden die Abstände: Der Satz ist nicht vollständig.</translation>
    </message>
    <message>
        <source>The joined picture would have {} x {} pixels; use another projection.</source>
        <translation>Das verbundene Bild hätte {} x {} Pixel; eine andere Projektion nehmen.</translation>
    </message>
    <message>
        <source>The kept curve is damaged ({}); delete it, the next set finds it anew.</source>
        <translation>Die behaltene Kennlinie ist beschädigt ({}); löschen, der nächste Satz findet sie neu.</translation>
    </message>
    <message>
        <source>The land</source>
        <translation>Das Land</translation>
    </message>
    <message>
        <source>The layer "{}" has no phase.</source>
        <translation>Die Schicht „{}“ hat keine Phase.</translation>
    </message>
    <message>
        <source>The less time passes, the less the camera moves between frames.</source>
        <translation>Je weniger Zeit vergeht, desto weniger bewegt sich die Kamera zwischen den Aufnahmen.</translation>
    </message>
    <message>
        <source>The light</source>
        <translation>Das Licht</translation>
    </message>
    <message>
        <source>The light falls by {:.1f} stop while the set is shot; shoot the longest frames first, or fewer.</source>
        <translation>Das Licht fällt während des Satzes um {:.1Lf} Blende; die längsten Aufnahmen zuerst machen oder weniger.</translation>
    </message>
    <message>
        <source>The light runs from EV %1 to EV %2, %3 stops; one frame of this camera records %4 at SNR %5 or better.</source>
        <translation>Das Licht reicht von EV %L1 bis EV %L2, %L3 Blenden; eine Aufnahme dieser Kamera zeichnet %L4 bei SNR %L5 oder besser auf.</translation>
    </message>
    <message>
        <source>The light was taken for %1.</source>
        <translation>Das Licht wurde für %L1 gehalten.</translation>
    </message>
    <message>
        <source>The light {} by {} before frame {}: {}.</source>
        <translation>Das Licht {} um {} vor Aufnahme {}: {}.</translation>
    </message>
    <message>
        <source>The logbook</source>
        <translation>Das Logbuch</translation>
    </message>
    <message>
        <source>The logbook is an index of what lies in the jobs; nothing leaves this machine. Simulated views are not counted in what is learnt.</source>
        <translation>Das Logbuch ist ein Verzeichnis dessen, was in den Aufträgen liegt; nichts verlässt diesen Rechner. Nachgebildete Motive zählen beim Gelernten nicht.</translation>
    </message>
    <message>
        <source>The logbook is an index: what it says lies in the jobs</source>
        <translation>Das Logbuch ist ein Verzeichnis: Was es sagt, liegt in den Aufträgen</translation>
    </message>
    <message>
        <source>The logbook is being read.</source>
        <translation>Das Logbuch wird gelesen.</translation>
    </message>
    <message>
        <source>The longest time is the camera's limit; bulb and a remote go further.</source>
        <translation>Die längste Zeit ist die Grenze der Kamera; Bulb und ein Fernauslöser gehen weiter.</translation>
    </message>
    <message>
        <source>The look `{}` cannot be removed.</source>
        <translation>Der Stil `{}` kann nicht entfernt werden.</translation>
    </message>
    <message>
        <source>The lowest has the least noise and the most range.</source>
        <translation>Die niedrigste hat das geringste Rauschen und den größten Umfang.</translation>
    </message>
    <message>
        <source>The middle of the range is sharpest; wide open loses depth, f/22 loses sharpness to diffraction.</source>
        <translation>Die Mitte ist am schärfsten; offen fehlt Schärfentiefe, f/22 verliert Schärfe an die Beugung.</translation>
    </message>
    <message>
        <source>The noise does not grow with the light: these are not pairs of flat frames from one raw camera.</source>
        <translation>Das Rauschen wächst nicht mit dem Licht: Das sind keine Paare gleichmäßiger Aufnahmen einer Raw-Kamera.</translation>
    </message>
    <message>
        <source>The order of the views is being found.</source>
        <translation>Die Reihenfolge der Motive wird gesucht.</translation>
    </message>
    <message>
        <source>The other window is closed; this job can be worked on here now.</source>
        <translation>Das andere Fenster ist geschlossen; an diesem Auftrag kann jetzt hier gearbeitet werden.</translation>
    </message>
    <message>
        <source>The others were held in the hand, and frame {} shows too little in common with them to be placed; it is left out.</source>
        <translation>Die anderen entstanden aus der Hand, und Aufnahme {} hat zu wenig mit ihnen gemeinsam, um ihren Platz zu finden; sie bleibt weg.</translation>
    </message>
    <message>
        <source>The picture</source>
        <translation>Das Bild</translation>
    </message>
    <message>
        <source>The picture cannot be finished: {}.</source>
        <translation>Das Bild lässt sich nicht ausarbeiten: {}.</translation>
    </message>
    <message>
        <source>The picture has changed since it was delivered; deliver again.</source>
        <translation>Das Bild hat sich geändert, seit es geliefert wurde; neu liefern.</translation>
    </message>
    <message>
        <source>The picture is exposed at {} {} {}: what is EV {:.1f} is a middle grey in it; a stop darker or brighter is half or twice its light.</source>
        <translation>Das Bild ist mit {} {} {} belichtet: Was EV {:.1Lf} hat, ist darin ein mittleres Grau; eine Blende dunkler oder heller ist sein halbes oder doppeltes Licht.</translation>
    </message>
    <message>
        <source>The places of frame {} do not agree on where it lies (by {:.1f} pixels); it is left out.</source>
        <translation>Die Stellen von Aufnahme {} sind sich nicht einig, wo sie liegt (um {:.1Lf} Pixel); sie bleibt weg.</translation>
    </message>
    <message>
        <source>The plan cannot be made: {}.</source>
        <translation>Der Plan kann nicht gemacht werden: {}.</translation>
    </message>
    <message>
        <source>The plan holds no usable frames; make it again.</source>
        <translation>Der Plan enthält keine brauchbaren Aufnahmen; neu machen.</translation>
    </message>
    <message>
        <source>The plan is not understood ({}).</source>
        <translation>Der Plan ist nicht verständlich ({}).</translation>
    </message>
    <message>
        <source>The positions reach up or down too far for the cylindrical projection; use the equirectangular one.</source>
        <translation>Die Positionen reichen für die zylindrische Projektion zu weit nach oben oder unten; die rechteckige Plattkarte nehmen.</translation>
    </message>
    <message>
        <source>The positions span {:.0f} degrees, too many for straight lines; use the cylindrical or the equirectangular projection.</source>
        <translation>Die Positionen umfassen {:.0Lf} Grad, zu viele für gerade Linien; die zylindrische Projektion oder die rechteckige Plattkarte nehmen.</translation>
    </message>
    <message>
        <source>The practice room</source>
        <translation>Der Übungsraum</translation>
    </message>
    <message>
        <source>The profile cannot be removed ({}).</source>
        <translation>Das Profil kann nicht entfernt werden ({}).</translation>
    </message>
    <message>
        <source>The readings that must keep texture, or what is missing, in stops</source>
        <translation>Die Messungen, die Zeichnung behalten müssen, oder was fehlt, in Blenden</translation>
    </message>
    <message>
        <source>The recipe cannot be used: {}.</source>
        <translation>Das Rezept ist nicht verwendbar: {}.</translation>
    </message>
    <message>
        <source>The recipe is not understood ({}).</source>
        <translation>Das Rezept ist nicht verständlich ({}).</translation>
    </message>
    <message>
        <source>The recipe was written by another version; make it again here.</source>
        <translation>Das Rezept stammt aus einer anderen Version; hier neu machen.</translation>
    </message>
    <message>
        <source>The reference frame `{}` cannot be used; choose another.</source>
        <translation>Die Bezugsaufnahme `{}` ist nicht verwendbar; eine andere wählen.</translation>
    </message>
    <message>
        <source>The response curve was found from the set and is kept for this camera: with it frames agree to %1 stop, with the usual curve to %2.</source>
        <translation>Die Kennlinie wurde aus dem Satz bestimmt und wird für diese Kamera behalten: Mit ihr stimmen die Aufnahmen auf %L1 Blende überein, mit der üblichen auf %L2.</translation>
    </message>
    <message>
        <source>The rest of the picture instead: all but the chosen area</source>
        <translation>Stattdessen der Rest des Bildes: alles außer dem gewählten Bereich</translation>
    </message>
    <message>
        <source>The room</source>
        <translation>Der Raum</translation>
    </message>
    <message>
        <source>The same here: %1.</source>
        <translation>Dasselbe hier: %L1.</translation>
    </message>
    <message>
        <source>The scene's light in stops: pins are readings, columns are frames, from where they are clean enough to where they clip.
Everyday levels after American National Standard PH2.7-1986.</source>
        <translation>Das Licht der Szene in Blenden: Nadeln sind Messungen, Säulen sind Aufnahmen, von da, wo sie sauber genug sind, bis dahin, wo sie ausfressen.
Alltägliche Lichtstufen nach American National Standard PH2.7-1986.</translation>
    </message>
    <message>
        <source>The set is ordered here, not by turning dials.</source>
        <translation>Die Reihe wird hier bestellt, nicht durch Drehen an Rädern.</translation>
    </message>
    <message>
        <source>The set is sound.</source>
        <translation>Der Satz ist in Ordnung.</translation>
    </message>
    <message>
        <source>The sheet is in %1, and as a picture for the phone beside it.</source>
        <translation>Das Blatt liegt in %L1, daneben als Bild für das Telefon.</translation>
    </message>
    <message>
        <source>The sheet is in %1.</source>
        <translation>Das Blatt liegt in %L1.</translation>
    </message>
    <message>
        <source>The simulated camera sways</source>
        <translation>Die nachgebildete Kamera schwankt</translation>
    </message>
    <message>
        <source>The sky fades, the lamps stay. Shoot {} sets while sky and lamps are within a stop of each other, each with its middle frame midway between them.</source>
        <translation>Der Himmel schwindet, die Lampen bleiben. {} Sätze aufnehmen, solange Himmel und Lampen innerhalb einer Blende liegen, jeden mit der mittleren Aufnahme genau dazwischen.</translation>
    </message>
    <message>
        <source>The sky of a landscape, down to the horizon and through branches</source>
        <translation>Der Himmel einer Landschaft, bis zum Horizont und durch Zweige</translation>
    </message>
    <message>
        <source>The smallest bracket: {}</source>
        <translation>Die kleinste Reihe: {}</translation>
    </message>
    <message>
        <source>The sphere as seen by somebody who stands in it (O)</source>
        <translation>Die Kugel, wie jemand sie sieht, der darin steht (O)</translation>
    </message>
    <message>
        <source>The sun does not rise</source>
        <translation>Die Sonne geht nicht auf</translation>
    </message>
    <message>
        <source>The sun does not set; it stands highest, at {:.0f}°, at {}.</source>
        <translation>Die Sonne geht nicht unter; sie steht am höchsten mit {:.0Lf}°, um {}.</translation>
    </message>
    <message>
        <source>The sun over the visit, and the views at their times</source>
        <translation>Die Sonne während des Termins und die Motive zu ihren Zeiten</translation>
    </message>
    <message>
        <source>The sun stands near the view: never look at it through an optical finder, and do not leave the lens pointed at it.</source>
        <translation>Die Sonne steht nahe am Motiv: nie durch einen optischen Sucher in sie sehen und das Objektiv nicht auf sie gerichtet lassen.</translation>
    </message>
    <message>
        <source>The task</source>
        <translation>Die Aufgabe</translation>
    </message>
    <message>
        <source>The test frame shows %1EV %2 at the bright end and EV %3 at the dark one; take both, or click spots of your own.</source>
        <translation>Die Probeaufnahme zeigt %L1EV %L2 am hellen Ende und EV %L3 am dunklen; beide nehmen oder selbst Punkte anklicken.</translation>
    </message>
    <message>
        <source>The thing to do next</source>
        <translation>Was als Nächstes zu tun ist</translation>
    </message>
    <message>
        <source>The thing to do next (Ctrl+Return)</source>
        <translation>Was als Nächstes zu tun ist (Strg+Eingabe)</translation>
    </message>
    <message>
        <source>The usual response curve holds: frames agree to %1 stop.</source>
        <translation>Die übliche Kennlinie gilt: Die Aufnahmen stimmen auf %L1 Blende überein.</translation>
    </message>
    <message>
        <source>The view in the window keeps {:.0f} % of the contrast of a frame exposed for it{}.</source>
        <translation>Der Ausblick im Fenster behält {:.0Lf} % des Kontrasts einer dafür belichteten Aufnahme{}.</translation>
    </message>
    <message>
        <source>The views behind it</source>
        <translation>Die Motive dahinter</translation>
    </message>
    <message>
        <source>The views behind the sentence that is chosen</source>
        <translation>Die Motive hinter dem gewählten Satz</translation>
    </message>
    <message>
        <source>The visit</source>
        <translation>Der Termin</translation>
    </message>
    <message>
        <source>The visit: place, day and order of the views</source>
        <translation>Der Termin: Ort, Tag und Reihenfolge der Motive</translation>
    </message>
    <message>
        <source>The wall has the same colour in "{}" and "{}" (CIEDE2000 {:.1f}).</source>
        <translation>Die Wand hat in „{}“ und „{}“ dieselbe Farbe (CIEDE2000 {:.1Lf}).</translation>
    </message>
    <message>
        <source>The watched folder `{}` has vanished; bring it back, and frames are taken again.</source>
        <translation>Der beobachtete Ordner `{}` ist verschwunden; zurückbringen, dann werden wieder Aufnahmen genommen.</translation>
    </message>
    <message>
        <source>The white balance changed before frame {}: fix it and shoot the set again.</source>
        <translation>Vor Aufnahme {} änderte sich der Weißabgleich: festhalten und den Satz neu aufnehmen.</translation>
    </message>
    <message>
        <source>The whole</source>
        <translation>Das Ganze</translation>
    </message>
    <message>
        <source>The wind never rested within a minute; nothing was shot. Try again, or shoot without waiting.</source>
        <translation>Der Wind ruhte eine Minute lang nie; nichts wurde aufgenommen. Noch einmal versuchen oder ohne Warten aufnehmen.</translation>
    </message>
    <message>
        <source>The world "{}" does not ship with this program; choose another exercise.</source>
        <translation>Die Welt „{}“ liegt diesem Programm nicht bei; eine andere Übung wählen.</translation>
    </message>
    <message>
        <source>The {} frames do not show the same view; group them again or shoot the set again.</source>
        <translation>Die {} Aufnahmen zeigen nicht dasselbe Motiv; neu ordnen oder den Satz neu aufnehmen.</translation>
    </message>
    <message>
        <source>The {} frames left still cover the scene; {} of {} that can go are gone.</source>
        <translation>Die {} übrigen Aufnahmen fassen die Szene noch; {} von {} entbehrlichen sind weg.</translation>
    </message>
    <message>
        <source>There are no frames yet; shoot them first or drop a folder of your own.</source>
        <translation>Noch gibt es keine Aufnahmen; zuerst fotografieren oder einen eigenen Ordner hierher ziehen.</translation>
    </message>
    <message>
        <source>There are too few plumb edges in this picture to go by; draw one with Draw a line.</source>
        <translation>In diesem Bild gibt es zu wenige senkrechte Kanten; eine mit „Linie ziehen“ zeichnen.</translation>
    </message>
    <message>
        <source>There is no camera "{}" among those that ship.</source>
        <translation>Unter den mitgelieferten gibt es keine Kamera „{}“.</translation>
    </message>
    <message>
        <source>There is no camera "{}".</source>
        <translation>Es gibt keine Kamera „{}“.</translation>
    </message>
    <message>
        <source>There is no camera at {}; switch it on, plug it in again and look what is connected.</source>
        <translation>Bei {} ist keine Kamera; einschalten, neu anstecken und nachsehen, was verbunden ist.</translation>
    </message>
    <message>
        <source>There is no exercise "{}"; `practice list` names them all, or give a file.</source>
        <translation>Es gibt keine Übung „{}“; `practice list` nennt alle, oder eine Datei angeben.</translation>
    </message>
    <message>
        <source>There is no exercise.</source>
        <translation>Es gibt keine Übung.</translation>
    </message>
    <message>
        <source>There is no farm in `{}`; begin one with `mellow-lantern-cli farm CARD --out {}`.</source>
        <translation>In `{}` gibt es keine Farm; mit `mellow-lantern-cli farm CARD --out {}` beginnen.</translation>
    </message>
    <message>
        <source>There is no frame in what was dropped; drop a folder of frames.</source>
        <translation>In dem, was hierher gezogen wurde, ist keine Aufnahme; einen Ordner mit Aufnahmen nehmen.</translation>
    </message>
    <message>
        <source>There is no frame in what was named; give a folder of frames or the frames themselves.</source>
        <translation>In dem, was genannt wurde, ist keine Aufnahme; einen Ordner mit Aufnahmen oder die Aufnahmen selbst angeben.</translation>
    </message>
    <message>
        <source>There is no frame to combine; name the files or a folder of them.</source>
        <translation>Es gibt keine Aufnahme zu vereinen; die Dateien oder einen Ordner damit nennen.</translation>
    </message>
    <message>
        <source>There is no frame {} to refer to; the frames count from 0 to {}.</source>
        <translation>Es gibt keine Aufnahme {} als Bezug; die Aufnahmen zählen von 0 bis {}.</translation>
    </message>
    <message>
        <source>There is no order yet; give the place and its time zone first.</source>
        <translation>Noch gibt es keine Reihenfolge; zuerst Ort und Zeitzone angeben.</translation>
    </message>
    <message>
        <source>There is no pair of dark frames; shoot two with the cap on, at the shortest time.</source>
        <translation>Es gibt kein Paar dunkler Aufnahmen; zwei mit Deckel bei der kürzesten Zeit machen.</translation>
    </message>
    <message>
        <source>There is no pair of frames of one exposure; shoot each exposure twice.</source>
        <translation>Es gibt kein Paar gleicher Belichtung; jede Belichtung zweimal aufnehmen.</translation>
    </message>
    <message>
        <source>There is no plan yet; take two readings at Light.</source>
        <translation>Noch gibt es keinen Plan; bei „Licht“ zwei Messungen nehmen.</translation>
    </message>
    <message>
        <source>There is no school "{}"; use one of {}.</source>
        <translation>Es gibt keine Weise „{}“; eine von {} nehmen.</translation>
    </message>
    <message>
        <source>There is no time zone "{}"; name one as the system does, such as Europe/Vienna or UTC.</source>
        <translation>Es gibt keine Zeitzone „{}“; eine so nennen, wie das System es tut, etwa Europe/Vienna oder UTC.</translation>
    </message>
    <message>
        <source>There is no window with a view to judge.</source>
        <translation>Es gibt kein Fenster mit Ausblick zu beurteilen.</translation>
    </message>
    <message>
        <source>There is not enough memory for this. Close other programs, or work on smaller frames, and try again.</source>
        <translation>Dafür reicht der Speicher nicht. Andere Programme schließen oder mit kleineren Aufnahmen arbeiten und noch einmal versuchen.</translation>
    </message>
    <message>
        <source>There is nothing to explain yet.</source>
        <translation>Noch gibt es nichts zu erklären.</translation>
    </message>
    <message>
        <source>There is too little texture to say how crisp it is.</source>
        <translation>Es gibt zu wenig Struktur, um zu sagen, wie klar sie ist.</translation>
    </message>
    <message>
        <source>These are your own frames; click a spot to read its light, or go on to Combine.</source>
        <translation>Das sind eigene Aufnahmen; einen Punkt anklicken, um sein Licht zu messen, oder weiter zu „Vereinen“.</translation>
    </message>
    <message>
        <source>These four points lie on a line; click the corners of something that is a rectangle in life.</source>
        <translation>Diese vier Punkte liegen auf einer Linie; die Ecken von etwas anklicken, das in Wirklichkeit ein Rechteck ist.</translation>
    </message>
    <message>
        <source>These frames are already shot; go on to Combine.</source>
        <translation>Diese Aufnahmen gibt es schon; weiter zu „Vereinen“.</translation>
    </message>
    <message>
        <source>This camera does not let its times be set by wire in the mode it is in; set its dial to manual (M), or let it fire the bracket by itself and watch the folder of its program.</source>
        <translation>Diese Kamera lässt ihre Zeiten in der jetzigen Betriebsart nicht aus der Ferne stellen; ihr Rad auf manuell (M) stellen oder sie die Reihe selbst auslösen lassen und den Ordner ihres Programms beobachten.</translation>
    </message>
    <message>
        <source>This camera measures no spots over the wire; take a test frame and read it there.</source>
        <translation>Diese Kamera misst aus der Ferne keine Punkte; eine Probeaufnahme machen und darin messen.</translation>
    </message>
    <message>
        <source>This camera shows no finder from here: take a test frame and click in it, or type what a meter says.</source>
        <translation>Diese Kamera zeigt von hier aus keinen Sucher: eine Probeaufnahme machen und hineinklicken oder eingeben, was ein Belichtungsmesser sagt.</translation>
    </message>
    <message>
        <source>This camera shows no finder over the wire; take a test frame.</source>
        <translation>Diese Kamera zeigt aus der Ferne keinen Sucher; eine Probeaufnahme machen.</translation>
    </message>
    <message>
        <source>This could not be done (%1). Nothing is lost: try again, or go on with something else.</source>
        <translation>Das ging nicht (%L1). Nichts ist verloren: noch einmal versuchen oder mit etwas anderem weitermachen.</translation>
    </message>
    <message>
        <source>This frame takes no part</source>
        <translation>Diese Aufnahme nimmt nicht teil</translation>
    </message>
    <message>
        <source>This is no list of files to deliver.</source>
        <translation>Das ist keine Liste zu liefernder Dateien.</translation>
    </message>
    <message>
        <source>This is not a plan of this version; make one with `mellow-lantern-cli plan --json`.</source>
        <translation>Das ist kein Plan dieser Version; mit `mellow-lantern-cli plan --json` einen machen.</translation>
    </message>
    <message>
        <source>This is white</source>
        <translation>Das ist weiß</translation>
    </message>
    <message>
        <source>This kind of file is not known here; take it out of the queue.</source>
        <translation>Diese Art Datei ist hier unbekannt; aus der Schlange nehmen.</translation>
    </message>
    <message>
        <source>This machine has no list of time zones; install the package tzdata, or give times in UTC.</source>
        <translation>Dieser Rechner hat keine Liste der Zeitzonen; das Paket tzdata installieren oder Zeiten in UTC angeben.</translation>
    </message>
    <message>
        <source>This set</source>
        <translation>Dieser Satz</translation>
    </message>
    <message>
        <source>This set says too little of the camera's curve; the one kept from {} earlier {} is used.</source>
        <translation>Dieser Satz sagt zu wenig über die Kennlinie der Kamera; verwendet wird die aus {} früheren {} behaltene.</translation>
    </message>
    <message>
        <source>This view is known from one side only; the camera can be turned in the net loft.</source>
        <translation>Dieses Motiv ist nur von einer Seite bekannt; drehen lässt sich die Kamera im Netzboden.</translation>
    </message>
    <message>
        <source>This view shows one side only. Frames of a camera that sees all directions, twice as wide as high, become a sphere to look around in.</source>
        <translation>Dieses Motiv zeigt nur eine Seite. Aufnahmen einer Kamera, die in alle Richtungen sieht, doppelt so breit wie hoch, werden zu einer Kugel, in der man sich umschauen kann.</translation>
    </message>
    <message>
        <source>Three</source>
        <translation>Drei</translation>
    </message>
    <message>
        <source>Three at 2 stops</source>
        <translation>Drei zu 2 Blenden</translation>
    </message>
    <message>
        <source>Three charts are in %1.</source>
        <translation>Drei Diagramme liegen in %L1.</translation>
    </message>
    <message>
        <source>Three sets before dark</source>
        <translation>Drei Sätze vor der Dunkelheit</translation>
    </message>
    <message>
        <source>Thumbs and repeats</source>
        <translation>Daumen und Wiederholungen</translation>
    </message>
    <message>
        <source>Ticked: must keep its texture. Not ticked: may clip, like a bare lamp.</source>
        <translation>Angekreuzt: muss Zeichnung behalten. Nicht angekreuzt: darf ausfressen, wie eine nackte Lampe.</translation>
    </message>
    <message>
        <source>Time</source>
        <translation>Zeit</translation>
    </message>
    <message>
        <source>Time of the middle frame</source>
        <translation>Zeit der mittleren Aufnahme</translation>
    </message>
    <message>
        <source>Time on site: timer, exposures, gaps</source>
        <translation>Zeit vor Ort: Selbstauslöser, Belichtungen, Pausen</translation>
    </message>
    <message>
        <source>Time zone</source>
        <translation>Zeitzone</translation>
    </message>
    <message>
        <source>Timer</source>
        <translation>Selbstauslöser</translation>
    </message>
    <message>
        <source>Timer or remote; hands off</source>
        <translation>Selbst- oder Fernauslöser; Hände weg</translation>
    </message>
    <message>
        <source>Times, one by one</source>
        <translation>Zeiten, eine nach der anderen</translation>
    </message>
    <message>
        <source>To</source>
        <translation>Bis</translation>
    </message>
    <message>
        <source>To the other views</source>
        <translation>Für die anderen Motive</translation>
    </message>
    <message>
        <source>Tone above which all is replaced</source>
        <translation>Ton, über dem alles ersetzt wird</translation>
    </message>
    <message>
        <source>Tone below which nothing is replaced</source>
        <translation>Ton, unter dem nichts ersetzt wird</translation>
    </message>
    <message>
        <source>Tones of the lighter frame, 0 to 255: below the first nothing is replaced, above the second everything</source>
        <translation>Töne der helleren Aufnahme, 0 bis 255: unter dem ersten wird nichts ersetzt, über dem zweiten alles</translation>
    </message>
    <message>
        <source>Towards</source>
        <translation>Richtung</translation>
    </message>
    <message>
        <source>Tripod and cables stay out of walkways, with weight on the tripod in wind. Derelict buildings, ladders and roofs only with permission and somebody beside you. Local rules and the owner's safety instructions come first.</source>
        <translation>Stativ und Kabel bleiben aus Wegen, bei Wind mit Gewicht am Stativ. Verfallene Gebäude, Leitern und Dächer nur mit Erlaubnis und nie allein. Örtliche Regeln und die Sicherheitshinweise des Eigentümers gehen vor.</translation>
    </message>
    <message>
        <source>Tripod nudged</source>
        <translation>Stativ angestoßen</translation>
    </message>
    <message>
        <source>Tripod, cables and stands out of walkways; weight on the tripod in wind.</source>
        <translation>Stativ, Kabel und Ständer aus Wegen halten; bei Wind Gewicht ans Stativ.</translation>
    </message>
    <message>
        <source>Twelve</source>
        <translation>Zwölf</translation>
    </message>
    <message>
        <source>Twilight</source>
        <translation>Dämmerung</translation>
    </message>
    <message>
        <source>Two</source>
        <translation>Zwei</translation>
    </message>
    <message>
        <source>Two exposures</source>
        <translation>Zwei Belichtungen</translation>
    </message>
    <message>
        <source>Two moments</source>
        <translation>Zwei Augenblicke</translation>
    </message>
    <message>
        <source>Two readings must keep their texture before a bracket can be planned.</source>
        <translation>Zwei Messungen müssen Zeichnung behalten, bevor eine Reihe geplant werden kann.</translation>
    </message>
    <message>
        <source>Two runs of {} frames, {}, the second {} {}</source>
        <translation>Zwei Durchgänge von {} Aufnahmen, {}, der zweite {} {}</translation>
    </message>
    <message>
        <source>Two sets</source>
        <translation>Zwei Sätze</translation>
    </message>
    <message>
        <source>Two single frames, {} apart by compensation</source>
        <translation>Zwei einzelne Aufnahmen, durch Korrektur {} auseinander</translation>
    </message>
    <message>
        <source>Two views on a card</source>
        <translation>Zwei Motive auf einer Karte</translation>
    </message>
    <message>
        <source>Two, joined by tone</source>
        <translation>Zwei, nach Tönen verbunden</translation>
    </message>
    <message>
        <source>Type an EV such as 13 1/3, a time such as 1/125 f/4 ISO 200, or 4000 cd/m2</source>
        <translation>Einen EV wie 13 1/3, eine Zeit wie 1/125 f/4 ISO 200 oder 4000 cd/m2 eingeben</translation>
    </message>
    <message>
        <source>Type what you want to do</source>
        <translation>Eingeben, was zu tun ist</translation>
    </message>
    <message>
        <source>Uncover all</source>
        <translation>Alles aufdecken</translation>
    </message>
    <message>
        <source>Undo</source>
        <translation>Rückgängig</translation>
    </message>
    <message>
        <source>Undo %1</source>
        <translation>%L1 zurücknehmen</translation>
    </message>
    <message>
        <source>Undo %1 (Ctrl+Z)</source>
        <translation>%L1 zurücknehmen (Strg+Z)</translation>
    </message>
    <message>
        <source>Untick a frame to leave it out. Double-click to type its exposure time</source>
        <translation>Haken weg lässt eine Aufnahme aus. Doppelklick, um ihre Belichtungszeit einzugeben</translation>
    </message>
    <message>
        <source>Up to</source>
        <translation>Bis</translation>
    </message>
    <message>
        <source>Use again</source>
        <translation>Wieder verwenden</translation>
    </message>
    <message>
        <source>Use it</source>
        <translation>Verwenden</translation>
    </message>
    <message>
        <source>Use the white found</source>
        <translation>Gefundenes Weiß nehmen</translation>
    </message>
    <message>
        <source>Use this camera</source>
        <translation>Diese Kamera verwenden</translation>
    </message>
    <message>
        <source>Verticals lean by {:.1f} degrees{}.</source>
        <translation>Senkrechte kippen um {:.1Lf} Grad{}.</translation>
    </message>
    <message>
        <source>Verticals straight</source>
        <translation>Senkrechte gerade</translation>
    </message>
    <message>
        <source>Verticals vertical; look round the edges of the frame</source>
        <translation>Senkrechte senkrecht; den Bildrand ringsum ansehen</translation>
    </message>
    <message>
        <source>View</source>
        <translation>Motiv</translation>
    </message>
    <message>
        <source>View %1</source>
        <translation>Motiv %L1</translation>
    </message>
    <message>
        <source>View %1 as late as the rest allows</source>
        <translation>Motiv %L1 so spät, wie die übrigen es erlauben</translation>
    </message>
    <message>
        <source>Views go into the light they want, in the order that takes least time; a view waits only for its light. Without views that find no time the rest stays as it is.</source>
        <translation>Motive kommen in das gewünschte Licht, in der Reihenfolge mit der kürzesten Zeit; gewartet wird nur auf Licht. Ohne Motive, die keine Zeit finden, bleibt das Übrige, wie es ist.</translation>
    </message>
    <message>
        <source>Views of the job itself are taken out in the list at the left</source>
        <translation>Motive des Auftrags selbst nimmt man in der Liste links heraus</translation>
    </message>
    <message>
        <source>Views of the kind {} span {:.1f} stops in the middle, half of them {:.1f} to {:.1f} ({} views).</source>
        <translation>Motive der Art {} umfassen in der Mitte {:.1Lf} Blenden, die Hälfte {:.1Lf} bis {:.1Lf} ({} Motive).</translation>
    </message>
    <message>
        <source>Views of the visit</source>
        <translation>Motive des Termins</translation>
    </message>
    <message>
        <source>Views of this job</source>
        <translation>Motive dieses Auftrags</translation>
    </message>
    <message>
        <source>Views shot from one stand need no way between them. Name the ways that take another time than most.</source>
        <translation>Motive vom selben Standort brauchen keinen Weg dazwischen. Die Wege nennen, die anders lange dauern als die meisten.</translation>
    </message>
    <message>
        <source>Views that are left out are not delivered</source>
        <translation>Weggelassene Motive werden nicht geliefert</translation>
    </message>
    <message>
        <source>Views that share a stand, and how long it takes from one to the next</source>
        <translation>Motive mit gemeinsamem Standort, und wie lange es von einem zum nächsten dauert</translation>
    </message>
    <message>
        <source>Visit</source>
        <translation>Termin</translation>
    </message>
    <message>
        <source>Visits</source>
        <translation>Termine</translation>
    </message>
    <message>
        <source>Vivid colours are left alone</source>
        <translation>Lebhafte Farben bleiben, wie sie sind</translation>
    </message>
    <message>
        <source>W</source>
        <translation>W</translation>
    </message>
    <message>
        <source>Wait for a lull</source>
        <translation>Auf Windstille warten</translation>
    </message>
    <message>
        <source>Wait for a lull in the wind</source>
        <translation>Auf eine Windstille warten</translation>
    </message>
    <message>
        <source>Waiting to be written</source>
        <translation>Wartet auf das Schreiben</translation>
    </message>
    <message>
        <source>Walkers</source>
        <translation>Fußgänger</translation>
    </message>
    <message>
        <source>Warm</source>
        <translation>Warm</translation>
    </message>
    <message>
        <source>Warmth</source>
        <translation>Wärme</translation>
    </message>
    <message>
        <source>Watch a folder, the camera's connection and card, faults to practise with</source>
        <translation>Ordner beobachten, Verbindung und Karte der Kamera, Fehler zum Üben</translation>
    </message>
    <message>
        <source>Watch a folder...</source>
        <translation>Ordner beobachten...</translation>
    </message>
    <message>
        <source>Watch for</source>
        <translation>Achten auf</translation>
    </message>
    <message>
        <source>Watched folder</source>
        <translation>Beobachteter Ordner</translation>
    </message>
    <message>
        <source>Watched folder...</source>
        <translation>Beobachteter Ordner...</translation>
    </message>
    <message>
        <source>Watches the finder and fires when next to nothing moves</source>
        <translation>Beobachtet den Sucher und löst aus, wenn sich fast nichts bewegt</translation>
    </message>
    <message>
        <source>Watching %1: frames are taken as they are complete.</source>
        <translation>%L1 wird beobachtet: Aufnahmen werden genommen, sobald sie vollständig sind.</translation>
    </message>
    <message>
        <source>Watching a folder</source>
        <translation>Ein Ordner wird beobachtet</translation>
    </message>
    <message>
        <source>Way to bracket</source>
        <translation>Weise der Reihe</translation>
    </message>
    <message>
        <source>Ways to bracket this scene</source>
        <translation>Weisen, diese Szene aufzunehmen</translation>
    </message>
    <message>
        <source>What does it show?</source>
        <translation>Was zeigt es?</translation>
    </message>
    <message>
        <source>What happened here?</source>
        <translation>Was ist hier geschehen?</translation>
    </message>
    <message>
        <source>What is brighter than the darkest frame can hold is white and empty for ever. So the sky decides the shortest time.</source>
        <translation>Was heller ist, als die dunkelste Aufnahme halten kann, ist für immer weiß und leer. Darum bestimmt der Himmel die kürzeste Zeit.</translation>
    </message>
    <message>
        <source>What is darker than the longest frame can lift drowns in noise. So the corner decides the longest time.</source>
        <translation>Was dunkler ist, als die längste Aufnahme heben kann, ertrinkt im Rauschen. Darum bestimmt die Ecke die längste Zeit.</translation>
    </message>
    <message>
        <source>What is it?</source>
        <translation>Was ist es?</translation>
    </message>
    <message>
        <source>What is known, and how it went</source>
        <translation>Was bekannt ist, und wie es ging</translation>
    </message>
    <message>
        <source>What is read</source>
        <translation>Was gemessen ist</translation>
    </message>
    <message>
        <source>What is turned</source>
        <translation>Was gedreht wird</translation>
    </message>
    <message>
        <source>What it has learnt</source>
        <translation>Was es gelernt hat</translation>
    </message>
    <message>
        <source>What moves may blur by</source>
        <translation>Was sich bewegt, darf verwischen um</translation>
    </message>
    <message>
        <source>What sky and lamps read</source>
        <translation>Was Himmel und Lampen messen</translation>
    </message>
    <message>
        <source>What the angles below, and drags on the picture, turn: the whole, or one position that was placed wrongly</source>
        <translation>Was die Winkel darunter und das Ziehen im Bild drehen: das Ganze, oder eine Position, die falsch liegt</translation>
    </message>
    <message>
        <source>What the logbook has learnt</source>
        <translation>Was das Logbuch gelernt hat</translation>
    </message>
    <message>
        <source>What to do better next time</source>
        <translation>Was beim nächsten Mal besser zu machen ist</translation>
    </message>
    <message>
        <source>When</source>
        <translation>Wann</translation>
    </message>
    <message>
        <source>Where and when, and the order of the views by the sun (V)</source>
        <translation>Wo und wann, und die Reihenfolge der Motive nach der Sonne (V)</translation>
    </message>
    <message>
        <source>Where frames come from</source>
        <translation>Woher die Aufnahmen kommen</translation>
    </message>
    <message>
        <source>Where jobs are kept</source>
        <translation>Wo Aufträge liegen</translation>
    </message>
    <message>
        <source>Where picture %1 is overdone</source>
        <translation>Wo Bild %L1 übertrieben ist</translation>
    </message>
    <message>
        <source>Where the camera looks: 0 north, 90 east</source>
        <translation>Wohin die Kamera blickt: 0 Nord, 90 Ost</translation>
    </message>
    <message>
        <source>Where to put the field card</source>
        <translation>Wohin mit dem Merkzettel</translation>
    </message>
    <message>
        <source>Whether frame {} is quite sharp cannot be told from these files; look at it at 100 %.</source>
        <translation>Ob Aufnahme {} ganz scharf ist, lässt sich aus diesen Dateien nicht sagen; bei 100 % ansehen.</translation>
    </message>
    <message>
        <source>Whether the light {} by {} before frame {} cannot be told apart from this camera's curve; combining allows for it.</source>
        <translation>Ob das Licht um {1} {0}, vor Aufnahme {2}, lässt sich von der Kennlinie dieser Kamera nicht trennen; beim Vereinen wird es berücksichtigt.</translation>
    </message>
    <message>
        <source>Whether the white balance changed before frame {} cannot be told apart from this camera's rendering.</source>
        <translation>Ob sich der Weißabgleich vor Aufnahme {} änderte, lässt sich von der Wiedergabe dieser Kamera nicht trennen.</translation>
    </message>
    <message>
        <source>Which frames belong together? Put them into sets; thumbs and stray frames belong to none.</source>
        <translation>Welche Aufnahmen gehören zusammen? In Sätze legen; Daumen und Verirrte gehören zu keinem.</translation>
    </message>
    <message>
        <source>Which lines stay straight</source>
        <translation>Welche Linien gerade bleiben</translation>
    </message>
    <message>
        <source>Which of these frames can be left out, and the scene is still covered? As many as possible.</source>
        <translation>Welche dieser Aufnahmen können weg, und die Szene ist noch gefasst? So viele wie möglich.</translation>
    </message>
    <message>
        <source>While held (B): the view as one exposure would show it, simulated from the combined light</source>
        <translation>Solange gehalten (B): das Motiv, wie eine einzelne Belichtung es zeigen würde, aus dem vereinten Licht nachgebildet</translation>
    </message>
    <message>
        <source>White</source>
        <translation>Weiß</translation>
    </message>
    <message>
        <source>White and colour</source>
        <translation>Weiß und Farbe</translation>
    </message>
    <message>
        <source>White balance</source>
        <translation>Weißabgleich</translation>
    </message>
    <message>
        <source>White paint found where it is marked, %1; white changes by %2 (CIEDE2000). Key N takes it.</source>
        <translation>Weiß gefunden, wo es markiert ist, %L1; das Weiß ändert sich um %L2 (CIEDE2000). Taste N nimmt es.</translation>
    </message>
    <message>
        <source>White, black</source>
        <translation>Weiß, Schwarz</translation>
    </message>
    <message>
        <source>Who stands near a flash or a moving slider cannot see that it is about to go: warn them. A sensor grows hot when the finder runs for long. Keep the sun out of the picture.</source>
        <translation>Wer nahe an einem Blitz oder fahrenden Schlitten steht, sieht nicht, dass es gleich losgeht: warnen. Ein Sensor wird heiß, wenn der Sucher lange läuft. Die Sonne aus dem Bild halten.</translation>
    </message>
    <message>
        <source>Why</source>
        <translation>Warum</translation>
    </message>
    <message>
        <source>Window with flash</source>
        <translation>Fenster mit Blitz</translation>
    </message>
    <message>
        <source>Windows</source>
        <translation>Fenster</translation>
    </message>
    <message>
        <source>With flash</source>
        <translation>Mit Blitz</translation>
    </message>
    <message>
        <source>With the times that %1 has. Ready for %2: %3.</source>
        <translation>Mit den Zeiten, die %L1 hat. Bereit für %L2: %L3.</translation>
    </message>
    <message>
        <source>With these gone {} are no longer recorded.</source>
        <translation>Ohne diese sind {} nicht mehr aufgezeichnet.</translation>
    </message>
    <message>
        <source>Words for it: {}.</source>
        <translation>Wörter dafür: {}.</translation>
    </message>
    <message>
        <source>Words that stand in it: a place, a lesson, a fault...</source>
        <translation>Wörter, die darin stehen: ein Ort, eine Lehre, ein Fehler...</translation>
    </message>
    <message>
        <source>Words to look for</source>
        <translation>Gesuchte Wörter</translation>
    </message>
    <message>
        <source>Work is going on; stop it or wait before dropping frames.</source>
        <translation>Es wird gearbeitet; anhalten oder abwarten, bevor Aufnahmen hierher gezogen werden.</translation>
    </message>
    <message>
        <source>Work on it</source>
        <translation>Daran arbeiten</translation>
    </message>
    <message>
        <source>Write</source>
        <translation>Schreiben</translation>
    </message>
    <message>
        <source>Write {}</source>
        <translation>{} schreiben</translation>
    </message>
    <message>
        <source>Yaw</source>
        <translation>Drehung</translation>
    </message>
    <message>
        <source>Year</source>
        <translation>Jahr</translation>
    </message>
    <message>
        <source>Year (PDF)...</source>
        <translation>Jahr (PDF)...</translation>
    </message>
    <message>
        <source>Year as a PDF</source>
        <translation>Jahr als PDF</translation>
    </message>
    <message>
        <source>Your finishes end away from the automatic start: {} in the middle ({} pictures). It can be your own starting point.</source>
        <translation>Ihre Ausarbeitungen enden abseits des automatischen Anfangs: in der Mitte {} ({} Bilder). Das kann Ihr eigener Ausgangspunkt sein.</translation>
    </message>
    <message>
        <source>Your starting point "%1" stands among the looks at Finish.</source>
        <translation>Ihr Ausgangspunkt „%L1“ steht unter den Stilen beim Ausarbeiten.</translation>
    </message>
    <message>
        <source>Zoom in: sharp? Did anything move?</source>
        <translation>Vergrößern: scharf? Hat sich etwas bewegt?</translation>
    </message>
    <message>
        <source>`%1` is no folder; choose the one your camera's program writes to.</source>
        <translation>`%L1` ist kein Ordner; den wählen, in den das Programm der Kamera schreibt.</translation>
    </message>
    <message>
        <source>`camera-set.json` cannot be read; the frames beside it are not touched.</source>
        <translation>`camera-set.json` ist nicht lesbar; die Aufnahmen daneben bleiben unberührt.</translation>
    </message>
    <message>
        <source>`farm/manifest.json` cannot be read; begin the farm again with its card and the same folder: what is made already is kept.</source>
        <translation>`farm/manifest.json` ist nicht lesbar; die Farm mit ihrer Karte und demselben Ordner neu beginnen: Was schon gemacht ist, bleibt.</translation>
    </message>
    <message>
        <source>`{}` already holds a job; open it or choose another folder.</source>
        <translation>`{}` enthält schon einen Auftrag; diesen öffnen oder einen anderen Ordner wählen.</translation>
    </message>
    <message>
        <source>`{}` and `{}` are {:.1f} stops apart by their settings but {:.1f} by their pixels</source>
        <translation>`{}` und `{}` liegen nach ihren Einstellungen {:.1Lf} Blenden auseinander, nach ihren Pixeln aber {:.1Lf}</translation>
    </message>
    <message>
        <source>`{}` came empty; see that there is room on the disk, and fetch it again.</source>
        <translation>`{}` kam leer an; nachsehen, dass auf der Platte Platz ist, und noch einmal holen.</translation>
    </message>
    <message>
        <source>`{}` cannot be opened.</source>
        <translation>`{}` kann nicht geöffnet werden.</translation>
    </message>
    <message>
        <source>`{}` cannot be opened; check that it is still there.</source>
        <translation>`{}` kann nicht geöffnet werden; nachsehen, ob die Datei noch da ist.</translation>
    </message>
    <message>
        <source>`{}` cannot be read.</source>
        <translation>`{}` kann nicht gelesen werden.</translation>
    </message>
    <message>
        <source>`{}` cannot be read: {}; copy it again from the card or leave it out.</source>
        <translation>`{}` kann nicht gelesen werden: {}; noch einmal von der Karte kopieren oder weglassen.</translation>
    </message>
    <message>
        <source>`{}` cannot be written ({}); choose another folder.</source>
        <translation>`{}` kann nicht geschrieben werden ({}); anderen Ordner wählen.</translation>
    </message>
    <message>
        <source>`{}` cannot be written ({}); free some space or choose another folder.</source>
        <translation>`{}` kann nicht geschrieben werden ({}); Platz schaffen oder anderen Ordner wählen.</translation>
    </message>
    <message>
        <source>`{}` cannot be written ({}); free some space.</source>
        <translation>`{}` kann nicht geschrieben werden ({}); Platz schaffen.</translation>
    </message>
    <message>
        <source>`{}` cannot be written, so this job can only be looked at; copy it to a folder of your own to work on it.</source>
        <translation>`{}` kann nicht geschrieben werden, darum lässt sich dieser Auftrag nur ansehen; zum Arbeiten in einen eigenen Ordner kopieren.</translation>
    </message>
    <message>
        <source>`{}` cannot be written: {}; free some space or choose another folder.</source>
        <translation>`{}` kann nicht geschrieben werden: {}; Platz schaffen oder anderen Ordner wählen.</translation>
    </message>
    <message>
        <source>`{}` cannot be written; choose another folder.</source>
        <translation>`{}` kann nicht geschrieben werden; anderen Ordner wählen.</translation>
    </message>
    <message>
        <source>`{}` cannot be written; free some space or choose another folder.</source>
        <translation>`{}` kann nicht geschrieben werden; Platz schaffen oder anderen Ordner wählen.</translation>
    </message>
    <message>
        <source>`{}` cannot be written; free some space.</source>
        <translation>`{}` kann nicht geschrieben werden; Platz schaffen.</translation>
    </message>
    <message>
        <source>`{}` cannot be written; is the disk full?</source>
        <translation>`{}` kann nicht geschrieben werden; ist die Platte voll?</translation>
    </message>
    <message>
        <source>`{}` cannot be written; make room in the folder for temporary files.</source>
        <translation>`{}` kann nicht geschrieben werden; im Ordner für vorläufige Dateien Platz schaffen.</translation>
    </message>
    <message>
        <source>`{}` cannot take the {:.1f} GB that are needed while so large a picture is finished ({}); make room there, or deliver to another folder.</source>
        <translation>`{}` kann die {:.1Lf} GB nicht aufnehmen, die gebraucht werden, während ein so großes Bild ausgearbeitet wird ({}); dort Platz schaffen oder in einen anderen Ordner liefern.</translation>
    </message>
    <message>
        <source>`{}` carries no gain map.</source>
        <translation>`{}` trägt keine Helligkeitskarte.</translation>
    </message>
    <message>
        <source>`{}` claims {} x {} pixels, more than the {} megapixels handled here; reduce it first.</source>
        <translation>`{}` gibt {} x {} Pixel an, mehr als die {} Megapixel, die hier gehen; zuerst verkleinern.</translation>
    </message>
    <message>
        <source>`{}` could not be written whole; free some space or choose another folder.</source>
        <translation>`{}` ließ sich nicht ganz schreiben; Platz schaffen oder anderen Ordner wählen.</translation>
    </message>
    <message>
        <source>`{}` does not fit into {} kB even at quality {}; ask for fewer pixels.</source>
        <translation>`{}` passt selbst bei Güte {2} nicht in {1} kB; weniger Pixel verlangen.</translation>
    </message>
    <message>
        <source>`{}` does not say how long it was exposed (no exposure time in its Exif); use the camera's original file or leave it out.</source>
        <translation>`{}` sagt nicht, wie lange belichtet wurde (keine Belichtungszeit im Exif-Block); die Originaldatei der Kamera nehmen oder weglassen.</translation>
    </message>
    <message>
        <source>`{}` does not say how long it was exposed; its step is estimated from the picture. Type the time if you know it.</source>
        <translation>`{}` sagt nicht, wie lange belichtet wurde; die Stufe wird aus dem Bild geschätzt. Die Zeit eintippen, wenn sie bekannt ist.</translation>
    </message>
    <message>
        <source>`{}` does not say how long it was exposed; use the camera's original file.</source>
        <translation>`{}` sagt nicht, wie lange belichtet wurde; die Originaldatei der Kamera nehmen.</translation>
    </message>
    <message>
        <source>`{}` has another ISO than the others; measure one ISO at a time.</source>
        <translation>`{}` hat eine andere ISO als die übrigen; immer eine ISO messen.</translation>
    </message>
    <message>
        <source>`{}` has another size than the frame it pairs with; use frames of one camera.</source>
        <translation>`{}` ist anders groß als die Aufnahme des Paars; Aufnahmen einer Kamera nehmen.</translation>
    </message>
    <message>
        <source>`{}` has nothing combined to deliver; combine it, or take it out of the queue.</source>
        <translation>`{}` hat nichts Vereintes zu liefern; vereinen oder aus der Schlange nehmen.</translation>
    </message>
    <message>
        <source>`{}` has {} x {} pixels and `{}` has {} x {}; combine only frames of one size.</source>
        <translation>`{}` hat {} x {} Pixel und `{}` {} x {}; nur Aufnahmen einer Größe vereinen.</translation>
    </message>
    <message>
        <source>`{}` has {} x {} pixels and the others have {} x {}; it is left out.</source>
        <translation>`{}` hat {} x {} Pixel und die übrigen {} x {}; sie bleibt weg.</translation>
    </message>
    <message>
        <source>`{}` has {} x {} pixels; a sphere is twice as wide as high.</source>
        <translation>`{}` hat {} x {} Pixel; eine Kugel ist doppelt so breit wie hoch.</translation>
    </message>
    <message>
        <source>`{}` holds no plain mosaic of one sample a pixel; measure with an uncompressed raw file.</source>
        <translation>`{}` enthält kein einfaches Mosaik mit einem Wert je Pixel; mit einer unkomprimierten Raw-Datei messen.</translation>
    </message>
    <message>
        <source>`{}` is a link that leads out of the job; put the folder itself there, or remove the link.</source>
        <translation>`{}` ist ein Verweis, der aus dem Auftrag hinausführt; den Ordner selbst hinlegen oder den Verweis entfernen.</translation>
    </message>
    <message>
        <source>`{}` is damaged ({}).</source>
        <translation>`{}` ist beschädigt ({}).</translation>
    </message>
    <message>
        <source>`{}` is damaged behind its picture: the light for bright screens is lost; deliver it again.</source>
        <translation>`{}` ist hinter dem Bild beschädigt: Das Licht für helle Bildschirme ist verloren; neu liefern.</translation>
    </message>
    <message>
        <source>`{}` is damaged; put it back from a copy, or remove it to start that step again.</source>
        <translation>`{}` ist beschädigt; aus einer Kopie zurückholen oder entfernen, um diesen Schritt neu zu beginnen.</translation>
    </message>
    <message>
        <source>`{}` is damaged; put it back from a copy.</source>
        <translation>`{}` ist beschädigt; aus einer Kopie zurückholen.</translation>
    </message>
    <message>
        <source>`{}` is no camera's address; use for instance 192.168.1.20, 192.168.1.20:15740 or usb:001,004 (`mellow-lantern-cli cameras` lists what is connected).</source>
        <translation>`{}` ist keine Kameraadresse; etwa 192.168.1.20, 192.168.1.20:15740 oder usb:001,004 nehmen (`mellow-lantern-cli cameras` zeigt, was verbunden ist).</translation>
    </message>
    <message>
        <source>`{}` is not a camera profile (JSON); export it again.</source>
        <translation>`{}` ist kein Kameraprofil (JSON); neu ausgeben.</translation>
    </message>
    <message>
        <source>`{}` is not a frame (raw, JPEG, TIFF or PNG picture of one exposure); leave it out.</source>
        <translation>`{}` ist keine Aufnahme (Raw, JPEG, TIFF oder PNG einer Belichtung); weglassen.</translation>
    </message>
    <message>
        <source>`{}` is not a plan; make one with `mellow-lantern-cli plan --json`.</source>
        <translation>`{}` ist kein Plan; mit `mellow-lantern-cli plan --json` einen machen.</translation>
    </message>
    <message>
        <source>`{}` is not a radiance picture (.exr, .hdr or float .tif); combine the frames first.</source>
        <translation>`{}` ist kein Strahldichtebild (.exr, .hdr oder Gleitkomma-.tif); zuerst die Aufnahmen vereinen.</translation>
    </message>
    <message>
        <source>`{}` is not a visit: it must hold one JSON object.</source>
        <translation>`{}` ist kein Termin: Nötig ist genau ein JSON-Objekt.</translation>
    </message>
    <message>
        <source>`{}` is not an answer: it must hold one JSON object.</source>
        <translation>`{}` ist keine Antwort: Nötig ist genau ein JSON-Objekt.</translation>
    </message>
    <message>
        <source>`{}` is not an exercise: it must hold one JSON object.</source>
        <translation>`{}` ist keine Übung: Nötig ist genau ein JSON-Objekt.</translation>
    </message>
    <message>
        <source>`{}` is not there; check the name.</source>
        <translation>`{}` ist nicht da; den Namen prüfen.</translation>
    </message>
    <message>
        <source>`{}` is the same file as `{}`; it is passed over.</source>
        <translation>`{}` ist dieselbe Datei wie `{}` und wird übergangen.</translation>
    </message>
    <message>
        <source>`{}` is {} x {} pixels and `{}` is {} x {}; combine only frames of one size.</source>
        <translation>`{}` hat {} x {} Pixel und `{}` {} x {}; nur Aufnahmen einer Größe vereinen.</translation>
    </message>
    <message>
        <source>`{}` lies beside the frames and is none; it is passed over.</source>
        <translation>`{}` liegt neben den Aufnahmen und ist keine; sie wird übergangen.</translation>
    </message>
    <message>
        <source>`{}` names a set `{}`, which is no name of a folder; put it back from a copy.</source>
        <translation>`{}` nennt einen Satz `{}`, der kein Ordnername ist; aus einer Kopie zurückholen.</translation>
    </message>
    <message>
        <source>`{}` needs about {:.1f} GB more and has {:.1f}; free some space or move the job.</source>
        <translation>`{}` braucht etwa {:.1Lf} GB mehr und hat {:.1Lf}; Platz schaffen oder den Auftrag verschieben.</translation>
    </message>
    <message>
        <source>`{}` says that the camera was held another way than for the others; it is turned like them.</source>
        <translation>`{}` sagt, die Kamera sei anders gehalten worden als bei den übrigen; das Bild wird wie sie gedreht.</translation>
    </message>
    <message>
        <source>`{}` was lit by flash: it shows what every other frame clips, and nothing else.</source>
        <translation>`{}` wurde mit Blitz belichtet: Die Aufnahme zeigt, was in allen anderen ausgefressen ist, und sonst nichts.</translation>
    </message>
    <message>
        <source>`{}` was made at {} where {} was asked for; set the aperture to {} and shoot again.</source>
        <translation>`{}` entstand bei {}, wo {} verlangt war; die Blende auf {} stellen und noch einmal aufnehmen.</translation>
    </message>
    <message>
        <source>`{}` was made at {} where {} was asked for; set {} and shoot again.</source>
        <translation>`{}` entstand bei {}, wo {} verlangt war; {} einstellen und noch einmal aufnehmen.</translation>
    </message>
    <message>
        <source>`{}` was written by a newer version; open the job with that one. Nothing was changed.</source>
        <translation>`{}` stammt aus einer neueren Version; den Auftrag mit ihr öffnen. Nichts wurde geändert.</translation>
    </message>
    <message>
        <source>`{}` was written by a newer version; use that one.</source>
        <translation>`{}` stammt aus einer neueren Version; diese verwenden.</translation>
    </message>
    <message>
        <source>`{}` was written, but what can be read back differs from the picture; write it to another disk.</source>
        <translation>`{}` wurde geschrieben, doch was sich zurücklesen lässt, weicht vom Bild ab; auf eine andere Platte schreiben.</translation>
    </message>
    <message>
        <source>`{}`: finished pictures are written as .jpg, .tif or .png.</source>
        <translation>`{}`: Fertige Bilder werden als .jpg, .tif oder .png geschrieben.</translation>
    </message>
    <message>
        <source>`{}`: joined radiance is written as .exr or .tif.</source>
        <translation>`{}`: Verbundene Strahldichte wird als .exr oder .tif geschrieben.</translation>
    </message>
    <message>
        <source>`{}`: radiance is written as .exr, .hdr or .tif.</source>
        <translation>`{}`: Strahldichte wird als .exr, .hdr oder .tif geschrieben.</translation>
    </message>
    <message>
        <source>a choice</source>
        <translation>eine Antwort</translation>
    </message>
    <message>
        <source>a colour is moved too far</source>
        <translation>eine Farbe ist zu weit verschoben</translation>
    </message>
    <message>
        <source>a corner lies far outside the picture</source>
        <translation>eine Ecke liegt weit außerhalb des Bildes</translation>
    </message>
    <message>
        <source>a field is missing</source>
        <translation>ein Feld fehlt</translation>
    </message>
    <message>
        <source>a field is of the wrong type ({})</source>
        <translation>ein Feld hat die falsche Art ({})</translation>
    </message>
    <message>
        <source>a frame</source>
        <translation>eine Aufnahme</translation>
    </message>
    <message>
        <source>a frame that fills is not among those that are lent</source>
        <translation>eine Aufnahme, die auffüllt, ist nicht unter den ausgeliehenen</translation>
    </message>
    <message>
        <source>a frame that is lent is not among the frames, or is the reference</source>
        <translation>eine geliehene Aufnahme ist nicht unter den Aufnahmen oder ist die Bezugsaufnahme</translation>
    </message>
    <message>
        <source>a further frame with flash on the window frame, the darker of the two kept inside it</source>
        <translation>eine weitere Aufnahme mit Blitz auf den Fensterrahmen, darin bleibt das Dunklere von beiden</translation>
    </message>
    <message>
        <source>a gap of %1</source>
        <translation>eine Lücke von %L1</translation>
    </message>
    <message>
        <source>a healed place is too large</source>
        <translation>eine zugedeckte Stelle ist zu groß</translation>
    </message>
    <message>
        <source>a moving layer needs an alpha channel</source>
        <translation>eine bewegte Schicht braucht einen Alphakanal</translation>
    </message>
    <message>
        <source>a pause of {:.0f} minutes</source>
        <translation>eine Pause von {:.0Lf} Minuten</translation>
    </message>
    <message>
        <source>a pause of {:.0f} s, and another view after it</source>
        <translation>eine Pause von {:.0Lf} s und danach ein anderes Motiv</translation>
    </message>
    <message>
        <source>a perspective needs four corners</source>
        <translation>eine Perspektive braucht vier Ecken</translation>
    </message>
    <message>
        <source>a picture</source>
        <translation>ein Bild</translation>
    </message>
    <message>
        <source>a reading</source>
        <translation>eine Messung</translation>
    </message>
    <message>
        <source>a short set with ample overlap</source>
        <translation>ein kurzer Satz mit reichlich Überlappung</translation>
    </message>
    <message>
        <source>a single metered exposure</source>
        <translation>eine einzelne gemessene Belichtung</translation>
    </message>
    <message>
        <source>a stroke is too large</source>
        <translation>ein Strich ist zu groß</translation>
    </message>
    <message>
        <source>a stroke lies far outside the picture</source>
        <translation>ein Strich liegt weit außerhalb des Bildes</translation>
    </message>
    <message>
        <source>a visit has at most {} views</source>
        <translation>ein Termin hat höchstens {} Motive</translation>
    </message>
    <message>
        <source>after sunset</source>
        <translation>nach Untergang</translation>
    </message>
    <message>
        <source>after sunset, with the lamps</source>
        <translation>nach Sonnenuntergang, mit Lampen</translation>
    </message>
    <message>
        <source>all</source>
        <translation>alles</translation>
    </message>
    <message>
        <source>all views of the job</source>
        <translation>alle Motive des Auftrags</translation>
    </message>
    <message>
        <source>almost all of it is clipped: it may be left out</source>
        <translation>fast alles darin ist ausgefressen: kann weggelassen werden</translation>
    </message>
    <message>
        <source>an area has too many strokes</source>
        <translation>ein Bereich hat zu viele Striche</translation>
    </message>
    <message>
        <source>an area lies far outside the picture</source>
        <translation>ein Bereich liegt weit außerhalb des Bildes</translation>
    </message>
    <message>
        <source>an area's moves are too large</source>
        <translation>die Züge eines Bereichs sind zu groß</translation>
    </message>
    <message>
        <source>and %1 more on the field card</source>
        <translation>und %L1 weitere auf dem Merkzettel</translation>
    </message>
    <message>
        <source>another camera</source>
        <translation>andere Kamera</translation>
    </message>
    <message>
        <source>another folder</source>
        <translation>anderer Ordner</translation>
    </message>
    <message>
        <source>another picture size</source>
        <translation>andere Bildgröße</translation>
    </message>
    <message>
        <source>another size or view</source>
        <translation>andere Größe oder anderes Motiv</translation>
    </message>
    <message>
        <source>any</source>
        <translation>beliebig</translation>
    </message>
    <message>
        <source>any blur</source>
        <translation>beliebig weit</translation>
    </message>
    <message>
        <source>any light</source>
        <translation>beliebiges Licht</translation>
    </message>
    <message>
        <source>any shape</source>
        <translation>beliebiges Format</translation>
    </message>
    <message>
        <source>any tag</source>
        <translation>jedes Stichwort</translation>
    </message>
    <message>
        <source>any year</source>
        <translation>jedes Jahr</translation>
    </message>
    <message>
        <source>anyone: as many frames as the light asks for, and no more</source>
        <translation>für alle: so viele Aufnahmen, wie das Licht verlangt, und nicht mehr</translation>
    </message>
    <message>
        <source>aperture fixed</source>
        <translation>Blende fest</translation>
    </message>
    <message>
        <source>are blended as pictures</source>
        <translation>sind als Bilder überblendet</translation>
    </message>
    <message>
        <source>are combined</source>
        <translation>sind vereint</translation>
    </message>
    <message>
        <source>are joined by tone</source>
        <translation>sind nach Tönen verbunden</translation>
    </message>
    <message>
        <source>are on disk</source>
        <translation>sind auf der Platte</translation>
    </message>
    <message>
        <source>are used</source>
        <translation>sind verwendet</translation>
    </message>
    <message>
        <source>as late as it goes</source>
        <translation>so spät es geht</translation>
    </message>
    <message>
        <source>as long as it takes</source>
        <translation>so lange es dauert</translation>
    </message>
    <message>
        <source>as the system</source>
        <translation>wie das System</translation>
    </message>
    <message>
        <source>as usual</source>
        <translation>wie üblich</translation>
    </message>
    <message>
        <source>asking for its finder</source>
        <translation>Abfragen des Suchers</translation>
    </message>
    <message>
        <source>at least </source>
        <translation>mindestens </translation>
    </message>
    <message>
        <source>at least %1</source>
        <translation>mindestens %L1</translation>
    </message>
    <message>
        <source>at most five faults in a set</source>
        <translation>höchstens fünf Fehler in einem Satz</translation>
    </message>
    <message>
        <source>at the bottom</source>
        <translation>unten</translation>
    </message>
    <message>
        <source>at the top</source>
        <translation>oben</translation>
    </message>
    <message>
        <source>at this aperture and focal length</source>
        <translation>bei dieser Blende und Brennweite</translation>
    </message>
    <message>
        <source>auto</source>
        <translation>auto</translation>
    </message>
    <message>
        <source>autofocus may hunt between frames</source>
        <translation>der Autofokus kann zwischen den Aufnahmen suchen</translation>
    </message>
    <message>
        <source>balance must lie between 0 and 1.5</source>
        <translation>der Ausgleich muss zwischen 0 und 1,5 liegen</translation>
    </message>
    <message>
        <source>base</source>
        <translation>Grund</translation>
    </message>
    <message>
        <source>because: %1</source>
        <translation>weil: %L1</translation>
    </message>
    <message>
        <source>before sunrise</source>
        <translation>vor Aufgang</translation>
    </message>
    <message>
        <source>begin a set</source>
        <translation>Satz beginnen</translation>
    </message>
    <message>
        <source>begins here: %1</source>
        <translation>beginnt hier: %L1</translation>
    </message>
    <message>
        <source>behind a divider</source>
        <translation>hinter einem Teiler</translation>
    </message>
    <message>
        <source>black</source>
        <translation>Schwarz</translation>
    </message>
    <message>
        <source>blended as pictures</source>
        <translation>als Bilder überblendet</translation>
    </message>
    <message>
        <source>both</source>
        <translation>beide</translation>
    </message>
    <message>
        <source>bright</source>
        <translation>hell</translation>
    </message>
    <message>
        <source>bright cloud</source>
        <translation>heller Wolkenhimmel</translation>
    </message>
    <message>
        <source>bright first</source>
        <translation>Helle zuerst</translation>
    </message>
    <message>
        <source>bright signs</source>
        <translation>helle Leuchtschriften</translation>
    </message>
    <message>
        <source>bright street</source>
        <translation>helle Straße</translation>
    </message>
    <message>
        <source>brighter</source>
        <translation>heller</translation>
    </message>
    <message>
        <source>brush</source>
        <translation>Pinsel</translation>
    </message>
    <message>
        <source>by finger</source>
        <translation>mit dem Finger</translation>
    </message>
    <message>
        <source>by hand, doubling the time until all is white</source>
        <translation>von Hand, die Zeit verdoppeln, bis alles weiß ist</translation>
    </message>
    <message>
        <source>by name</source>
        <translation>nach Namen</translation>
    </message>
    <message>
        <source>camera moved {:.1f} pixels</source>
        <translation>Kamera um {:.1Lf} Pixel bewegt</translation>
    </message>
    <message>
        <source>change position</source>
        <translation>Position wechseln</translation>
    </message>
    <message>
        <source>changed since delivered</source>
        <translation>seit dem Liefern geändert</translation>
    </message>
    <message>
        <source>clips %1</source>
        <translation>%L1 frisst aus</translation>
    </message>
    <message>
        <source>clips the brightest {}</source>
        <translation>lässt die hellsten {} ausfressen</translation>
    </message>
    <message>
        <source>colour profile "%1"</source>
        <translation>Farbprofil „%L1“</translation>
    </message>
    <message>
        <source>columns</source>
        <translation>Spalten</translation>
    </message>
    <message>
        <source>combine</source>
        <translation>vereinen</translation>
    </message>
    <message>
        <source>combined</source>
        <translation>vereint</translation>
    </message>
    <message>
        <source>combining, %1 %</source>
        <translation>wird vereint, %L1 %</translation>
    </message>
    <message>
        <source>cooler</source>
        <translation>kühler</translation>
    </message>
    <message>
        <source>could not be combined</source>
        <translation>ließ sich nicht vereinen</translation>
    </message>
    <message>
        <source>cover</source>
        <translation>fassen</translation>
    </message>
    <message>
        <source>covers</source>
        <translation>fasst</translation>
    </message>
    <message>
        <source>covers all</source>
        <translation>fasst alles</translation>
    </message>
    <message>
        <source>creator</source>
        <translation>Urheber</translation>
    </message>
    <message>
        <source>crunchy: too much local contrast</source>
        <translation>hart: zu viel örtlicher Kontrast</translation>
    </message>
    <message>
        <source>cylindrical</source>
        <translation>zylindrisch</translation>
    </message>
    <message>
        <source>dark</source>
        <translation>dunkel</translation>
    </message>
    <message>
        <source>dark first</source>
        <translation>Dunkle zuerst</translation>
    </message>
    <message>
        <source>dark rooms with bright windows</source>
        <translation>dunkle Räume mit hellen Fenstern</translation>
    </message>
    <message>
        <source>darker</source>
        <translation>dunkler</translation>
    </message>
    <message>
        <source>day</source>
        <translation>Tag</translation>
    </message>
    <message>
        <source>deep shadow still noise</source>
        <translation>tiefer Schatten noch Rauschen</translation>
    </message>
    <message>
        <source>delivered</source>
        <translation>geliefert</translation>
    </message>
    <message>
        <source>detail and form must lie between 0 and 3</source>
        <translation>Detail und Form müssen zwischen 0 und 3 liegen</translation>
    </message>
    <message>
        <source>diagonals</source>
        <translation>Diagonalen</translation>
    </message>
    <message>
        <source>direction</source>
        <translation>Richtung</translation>
    </message>
    <message>
        <source>done</source>
        <translation>fertig</translation>
    </message>
    <message>
        <source>down</source>
        <translation>ab</translation>
    </message>
    <message>
        <source>early</source>
        <translation>früh</translation>
    </message>
    <message>
        <source>early or late</source>
        <translation>früh oder spät</translation>
    </message>
    <message>
        <source>end of civil twilight</source>
        <translation>Ende der bürgerlichen Dämmerung</translation>
    </message>
    <message>
        <source>equirectangular</source>
        <translation>rechteckige Plattkarte</translation>
    </message>
    <message>
        <source>every entry of "{}" must be an object</source>
        <translation>jeder Eintrag von "{}" muss ein Objekt sein</translation>
    </message>
    <message>
        <source>every set must be a list of frames</source>
        <translation>jeder Satz muss eine Liste von Aufnahmen sein</translation>
    </message>
    <message>
        <source>every view needs a "name"</source>
        <translation>jedes Motiv braucht einen "name"</translation>
    </message>
    <message>
        <source>exposure must lie between -6 and 6 stops</source>
        <translation>die Belichtung muss zwischen -6 und 6 Blenden liegen</translation>
    </message>
    <message>
        <source>falls</source>
        <translation>fällt</translation>
    </message>
    <message>
        <source>falls to SNR {:.0f} near EV {:.1f}</source>
        <translation>fällt bei EV {1:.1Lf} auf SNR {0:.0Lf}</translation>
    </message>
    <message>
        <source>fastest burst</source>
        <translation>schnellste Serie</translation>
    </message>
    <message>
        <source>feet</source>
        <translation>Fuß</translation>
    </message>
    <message>
        <source>fell</source>
        <translation>fiel</translation>
    </message>
    <message>
        <source>fetching {}</source>
        <translation>Holen von {}</translation>
    </message>
    <message>
        <source>file format</source>
        <translation>Dateiart</translation>
    </message>
    <message>
        <source>finder</source>
        <translation>Sucher</translation>
    </message>
    <message>
        <source>finish</source>
        <translation>Ausarbeitung</translation>
    </message>
    <message>
        <source>finish of several views</source>
        <translation>Ausarbeitung mehrerer Motive</translation>
    </message>
    <message>
        <source>finished</source>
        <translation>ausgearbeitet</translation>
    </message>
    <message>
        <source>fired by your own hand, on the window frame; its darker parts are kept</source>
        <translation>von Hand ausgelöst, auf den Fensterrahmen; seine dunkleren Teile bleiben</translation>
    </message>
    <message>
        <source>fix the aperture</source>
        <translation>die Blende festhalten</translation>
    </message>
    <message>
        <source>fixed times: nothing that the meter sees can shift them between frames</source>
        <translation>feste Zeiten: Nichts, was der Belichtungsmesser sieht, kann sie zwischen den Aufnahmen verschieben</translation>
    </message>
    <message>
        <source>flash, and a mask</source>
        <translation>Blitz und eine Maske</translation>
    </message>
    <message>
        <source>flat: window and room pulled together too far</source>
        <translation>flach: Fenster und Raum zu weit zusammengezogen</translation>
    </message>
    <message>
        <source>floodlit walls</source>
        <translation>angestrahlte Mauern</translation>
    </message>
    <message>
        <source>focus at %1 m</source>
        <translation>scharf auf %L1 m</translation>
    </message>
    <message>
        <source>focus far away</source>
        <translation>scharf in der Ferne</translation>
    </message>
    <message>
        <source>for cameras that bracket only by their meter; a guess, for a meter that reads the middle of your readings, EV {:.1f}: turn it until the time above shows</source>
        <translation>für Kameras, die Reihen nur nach ihrem Belichtungsmesser machen; eine Schätzung, für einen, der die Mitte Ihrer Messungen sieht, EV {:.1Lf}: drehen, bis oben die Zeit erscheint</translation>
    </message>
    <message>
        <source>frame %1</source>
        <translation>Aufnahme %L1</translation>
    </message>
    <message>
        <source>frame %1, %2</source>
        <translation>Aufnahme %L1, %2</translation>
    </message>
    <message>
        <source>frame left out</source>
        <translation>Aufnahme weggelassen</translation>
    </message>
    <message>
        <source>frame taken in</source>
        <translation>Aufnahme hinzugenommen</translation>
    </message>
    <message>
        <source>frame {}: {}</source>
        <translation>Aufnahme {}: {}</translation>
    </message>
    <message>
        <source>frames are counted from 1</source>
        <translation>Aufnahmen zählen ab 1</translation>
    </message>
    <message>
        <source>frames changed</source>
        <translation>Aufnahmen geändert</translation>
    </message>
    <message>
        <source>frames left out</source>
        <translation>Aufnahmen weggelassen</translation>
    </message>
    <message>
        <source>from</source>
        <translation>von</translation>
    </message>
    <message>
        <source>from %1</source>
        <translation>von %L1</translation>
    </message>
    <message>
        <source>from frame %1</source>
        <translation>aus Aufnahme %L1</translation>
    </message>
    <message>
        <source>from frames</source>
        <translation>aus Aufnahmen</translation>
    </message>
    <message>
        <source>from {}</source>
        <translation>ab {}</translation>
    </message>
    <message>
        <source>from {} to {}</source>
        <translation>von {} bis {}</translation>
    </message>
    <message>
        <source>front-lit, full sun</source>
        <translation>von vorn beleuchtet, volle Sonne</translation>
    </message>
    <message>
        <source>full moon landscape</source>
        <translation>Landschaft bei Vollmond</translation>
    </message>
    <message>
        <source>full: on site, hatched: at the desk; middle of the month</source>
        <translation>voll: vor Ort, schraffiert: am Schreibtisch; Mitte des Monats</translation>
    </message>
    <message>
        <source>gaps beyond two stops each way and the sensor's own range</source>
        <translation>Lücken jenseits von zwei Blenden nach beiden Seiten und dem Umfang des Sensors</translation>
    </message>
    <message>
        <source>golden cut</source>
        <translation>Goldener Schnitt</translation>
    </message>
    <message>
        <source>grows</source>
        <translation>wächst</translation>
    </message>
    <message>
        <source>hand-held volume work: one bright frame, the others darker, as fast as the burst goes</source>
        <translation>viele Motive aus der Hand: eine helle Aufnahme, die anderen dunkler, so schnell die Serie geht</translation>
    </message>
    <message>
        <source>hazy sun</source>
        <translation>dunstige Sonne</translation>
    </message>
    <message>
        <source>here</source>
        <translation>hier</translation>
    </message>
    <message>
        <source>here it is</source>
        <translation>hier ist es</translation>
    </message>
    <message>
        <source>higher</source>
        <translation>höher</translation>
    </message>
    <message>
        <source>highest</source>
        <translation>am höchsten</translation>
    </message>
    <message>
        <source>highlights clipped, {:.1f} %</source>
        <translation>Lichter ausgefressen, {:.1Lf} %</translation>
    </message>
    <message>
        <source>horizon</source>
        <translation>Horizont</translation>
    </message>
    <message>
        <source>iCalendar (*.ics)</source>
        <translation>iCalendar (*.ics)</translation>
    </message>
    <message>
        <source>in the lower left</source>
        <translation>unten links</translation>
    </message>
    <message>
        <source>in the lower right</source>
        <translation>unten rechts</translation>
    </message>
    <message>
        <source>in the middle</source>
        <translation>in der Mitte</translation>
    </message>
    <message>
        <source>in the upper left</source>
        <translation>oben links</translation>
    </message>
    <message>
        <source>in the upper right</source>
        <translation>oben rechts</translation>
    </message>
    <message>
        <source>infinity</source>
        <translation>unendlich</translation>
    </message>
    <message>
        <source>interior</source>
        <translation>Innenraum</translation>
    </message>
    <message>
        <source>is soft</source>
        <translation>ist unscharf</translation>
    </message>
    <message>
        <source>it can be joined with the view before it</source>
        <translation>es lässt sich mit dem Motiv davor verbinden</translation>
    </message>
    <message>
        <source>it cannot be opened</source>
        <translation>sie kann nicht geöffnet werden</translation>
    </message>
    <message>
        <source>it does not become night then</source>
        <translation>dann wird es nicht Nacht</translation>
    </message>
    <message>
        <source>it has no R, G, B or Y channel</source>
        <translation>sie hat keinen Kanal R, G, B oder Y</translation>
    </message>
    <message>
        <source>it has no {}; plan with the times it has</source>
        <translation>sie hat kein {}; mit den Zeiten planen, die sie hat</translation>
    </message>
    <message>
        <source>it has no {}; plan with {}, its nearest</source>
        <translation>sie hat kein {}; mit {} planen, dem nächsten</translation>
    </message>
    <message>
        <source>it has not 256 codes</source>
        <translation>sie hat nicht 256 Stufen</translation>
    </message>
    <message>
        <source>it holds no picture</source>
        <translation>sie enthält kein Bild</translation>
    </message>
    <message>
        <source>it is empty</source>
        <translation>sie ist leer</translation>
    </message>
    <message>
        <source>it is no curve</source>
        <translation>das ist keine Kennlinie</translation>
    </message>
    <message>
        <source>it is not a 32-bit float TIFF file</source>
        <translation>es ist keine TIFF-Datei mit 32-Bit-Gleitkommawerten</translation>
    </message>
    <message>
        <source>it is not a file</source>
        <translation>es ist keine Datei</translation>
    </message>
    <message>
        <source>it must not drift inside the set</source>
        <translation>sie darf im Satz nicht wandern</translation>
    </message>
    <message>
        <source>it shows the view before it sharp at another distance: a plane of focus</source>
        <translation>es zeigt das Motiv davor in anderer Entfernung scharf: eine Schärfeebene</translation>
    </message>
    <message>
        <source>it will not come back, so shoot the set again with fewer frames or shorter times</source>
        <translation>es kommt nicht wieder, darum den Satz mit weniger Aufnahmen oder kürzeren Zeiten neu aufnehmen</translation>
    </message>
    <message>
        <source>its base ISO must be above 0</source>
        <translation>die Grund-ISO muss über 0 liegen</translation>
    </message>
    <message>
        <source>its base picture must have three channels</source>
        <translation>das Grundbild muss drei Kanäle haben</translation>
    </message>
    <message>
        <source>its bit depth must be 8 to 16</source>
        <translation>die Bittiefe muss 8 bis 16 sein</translation>
    </message>
    <message>
        <source>its black level ({}) leaves no room below its white level ({}); use the camera's original file</source>
        <translation>der Schwarzwert ({}) lässt unter dem Weißwert ({}) keinen Raum; die Originaldatei der Kamera nehmen</translation>
    </message>
    <message>
        <source>its bracket offset comes again</source>
        <translation>ihr Versatz in der Reihe kommt wieder</translation>
    </message>
    <message>
        <source>its bracket steps must be above 0 and at most 6 stops</source>
        <translation>die Schritte der Reihe müssen über 0 und höchstens 6 Blenden sein</translation>
    </message>
    <message>
        <source>its clipping point is not below its top</source>
        <translation>die Sättigung liegt nicht unter dem oberen Ende</translation>
    </message>
    <message>
        <source>its distances do not fit a base picture of all directions</source>
        <translation>die Entfernungen passen nicht zu einem Grundbild in alle Richtungen</translation>
    </message>
    <message>
        <source>its exposure comes again</source>
        <translation>ihre Belichtung kommt wieder</translation>
    </message>
    <message>
        <source>its exposure is estimated from the picture</source>
        <translation>ihre Belichtung ist aus dem Bild geschätzt</translation>
    </message>
    <message>
        <source>its file size must be above 0 MB</source>
        <translation>die Dateigröße muss über 0 MB liegen</translation>
    </message>
    <message>
        <source>its frame counts must be 1 to 99</source>
        <translation>die Zahl der Aufnahmen muss 1 bis 99 sein</translation>
    </message>
    <message>
        <source>its frame has an impossible size</source>
        <translation>das Bild hat eine unmögliche Größe</translation>
    </message>
    <message>
        <source>its full well must be more than 100 electrons</source>
        <translation>die Sättigung muss über 100 Elektronen liegen</translation>
    </message>
    <message>
        <source>its gaps must not be negative, and its buffer hold a frame</source>
        <translation>die Pausen dürfen nicht negativ sein, und der Puffer muss eine Aufnahme fassen</translation>
    </message>
    <message>
        <source>its header contradicts its data</source>
        <translation>der Dateikopf widerspricht den Daten</translation>
    </message>
    <message>
        <source>its header contradicts itself</source>
        <translation>der Dateikopf widerspricht sich selbst</translation>
    </message>
    <message>
        <source>its header gives no size</source>
        <translation>der Dateikopf nennt keine Größe</translation>
    </message>
    <message>
        <source>its header is damaged</source>
        <translation>der Dateikopf ist beschädigt</translation>
    </message>
    <message>
        <source>its highest ISO is {:.0f}</source>
        <translation>ihre höchste ISO ist {:.0Lf}</translation>
    </message>
    <message>
        <source>its highest ISO must not lie below its base ISO</source>
        <translation>die höchste ISO darf nicht unter der Grund-ISO liegen</translation>
    </message>
    <message>
        <source>its highlight headroom must be above 0 stops</source>
        <translation>die Reserve in den Lichtern muss über 0 Blenden liegen</translation>
    </message>
    <message>
        <source>its lamp picture does not fit the base picture</source>
        <translation>das Lampenbild passt nicht zum Grundbild</translation>
    </message>
    <message>
        <source>its lens has no such aperture</source>
        <translation>ihr Objektiv hat keine solche Blende</translation>
    </message>
    <message>
        <source>its lens has no {}; plan with {}, its nearest</source>
        <translation>ihr Objektiv hat kein {}; mit {} planen, dem nächsten</translation>
    </message>
    <message>
        <source>its light does not rise from 0 to 1</source>
        <translation>das Licht steigt nicht von 0 bis 1</translation>
    </message>
    <message>
        <source>its longest time must be longer than its shortest</source>
        <translation>die längste Zeit muss länger als die kürzeste sein</translation>
    </message>
    <message>
        <source>its lowest ISO is {:.0f}</source>
        <translation>ihre niedrigste ISO ist {:.0Lf}</translation>
    </message>
    <message>
        <source>its picture size must be 32 to 100000 pixels</source>
        <translation>die Bildgröße muss 32 bis 100000 Pixel sein</translation>
    </message>
    <message>
        <source>its pixel pitch must be 0.3 to 100 micrometres</source>
        <translation>der Pixelabstand muss 0,3 bis 100 Mikrometer sein</translation>
    </message>
    <message>
        <source>its pixels are not RGB</source>
        <translation>die Pixel sind nicht RGB</translation>
    </message>
    <message>
        <source>its read noise at high ISO must not be negative</source>
        <translation>das Ausleserauschen bei hoher ISO darf nicht negativ sein</translation>
    </message>
    <message>
        <source>its read noise must be below a tenth of the full well</source>
        <translation>das Ausleserauschen muss unter einem Zehntel der Sättigung liegen</translation>
    </message>
    <message>
        <source>its sensor must be 1 to 300 mm wide</source>
        <translation>der Sensor muss 1 bis 300 mm breit sein</translation>
    </message>
    <message>
        <source>its view mask does not fit the base picture</source>
        <translation>die Blickmaske passt nicht zum Grundbild</translation>
    </message>
    <message>
        <source>its white is nearer to white</source>
        <translation>sein Weiß ist näher an Weiß</translation>
    </message>
    <message>
        <source>join sets</source>
        <translation>Sätze verbinden</translation>
    </message>
    <message>
        <source>just after sunset</source>
        <translation>kurz nach Sonnenuntergang</translation>
    </message>
    <message>
        <source>just not covered</source>
        <translation>knapp nicht gefasst</translation>
    </message>
    <message>
        <source>keep the location</source>
        <translation>Aufnahmeort behalten</translation>
    </message>
    <message>
        <source>kind of view</source>
        <translation>Art des Motivs</translation>
    </message>
    <message>
        <source>lamps</source>
        <translation>Lampen</translation>
    </message>
    <message>
        <source>landscape</source>
        <translation>Landschaft</translation>
    </message>
    <message>
        <source>large brush</source>
        <translation>großer Pinsel</translation>
    </message>
    <message>
        <source>large spot</source>
        <translation>Punkt groß</translation>
    </message>
    <message>
        <source>large tones pressed, detail kept</source>
        <translation>große Töne gedrückt, Detail behalten</translation>
    </message>
    <message>
        <source>late</source>
        <translation>spät</translation>
    </message>
    <message>
        <source>leaning</source>
        <translation>geneigt</translation>
    </message>
    <message>
        <source>leave out frame %1, %2</source>
        <translation>Aufnahme %L1, %L2 weglassen</translation>
    </message>
    <message>
        <source>leaves the darkest tone a little below SNR {:g}</source>
        <translation>lässt den dunkelsten Ton ein wenig unter SNR {:Lg}</translation>
    </message>
    <message>
        <source>leaves the darkest {} below SNR {:g}</source>
        <translation>lässt die dunkelsten {} unter SNR {:Lg}</translation>
    </message>
    <message>
        <source>leaves the highlights a little less than their margin</source>
        <translation>lässt den Lichtern etwas weniger als ihre Reserve</translation>
    </message>
    <message>
        <source>left</source>
        <translation>links</translation>
    </message>
    <message>
        <source>left out</source>
        <translation>weggelassen</translation>
    </message>
    <message>
        <source>lens profile</source>
        <translation>Objektivprofil</translation>
    </message>
    <message>
        <source>lens shifts</source>
        <translation>Objektiv-Verschiebungen</translation>
    </message>
    <message>
        <source>light of the view</source>
        <translation>Licht des Motivs</translation>
    </message>
    <message>
        <source>light {}</source>
        <translation>Licht {}</translation>
    </message>
    <message>
        <source>light {} by {}</source>
        <translation>Licht {} um {}</translation>
    </message>
    <message>
        <source>line: the middle view; box: half of all</source>
        <translation>Strich: das mittlere Motiv; Kasten: die Hälfte von allen</translation>
    </message>
    <message>
        <source>listening to it</source>
        <translation>Lauschen</translation>
    </message>
    <message>
        <source>listing {}</source>
        <translation>Auflisten von {}</translation>
    </message>
    <message>
        <source>lit skyline, far</source>
        <translation>beleuchtete Stadt, fern</translation>
    </message>
    <message>
        <source>little range for five frames</source>
        <translation>wenig Umfang für fünf Aufnahmen</translation>
    </message>
    <message>
        <source>logbook-%1.pdf</source>
        <translation>logbuch-%L1.pdf</translation>
    </message>
    <message>
        <source>longest first</source>
        <translation>Längste zuerst</translation>
    </message>
    <message>
        <source>look: %1</source>
        <translation>ansehen: %L1</translation>
    </message>
    <message>
        <source>looking only</source>
        <translation>nur ansehen</translation>
    </message>
    <message>
        <source>low sun</source>
        <translation>tiefe Sonne</translation>
    </message>
    <message>
        <source>lower</source>
        <translation>tiefer</translation>
    </message>
    <message>
        <source>many frames, and a hand on the camera</source>
        <translation>viele Aufnahmen und eine Hand an der Kamera</translation>
    </message>
    <message>
        <source>masks by hand</source>
        <translation>Masken von Hand</translation>
    </message>
    <message>
        <source>measured camera</source>
        <translation>gemessene Kamera</translation>
    </message>
    <message>
        <source>metres</source>
        <translation>Meter</translation>
    </message>
    <message>
        <source>middle</source>
        <translation>Mitte</translation>
    </message>
    <message>
        <source>middle first</source>
        <translation>Mittlere zuerst</translation>
    </message>
    <message>
        <source>min</source>
        <translation>min</translation>
    </message>
    <message>
        <source>minute %1 at %2</source>
        <translation>Minute %L1 mit %L2</translation>
    </message>
    <message>
        <source>minutes</source>
        <translation>Minuten</translation>
    </message>
    <message>
        <source>more time between the first frame and the last</source>
        <translation>mehr Zeit zwischen der ersten und der letzten Aufnahme</translation>
    </message>
    <message>
        <source>move a frame</source>
        <translation>Aufnahme verschieben</translation>
    </message>
    <message>
        <source>moved %1 pixels</source>
        <translation>um %L1 Pixel verschoben</translation>
    </message>
    <message>
        <source>moved %1 pixels, %2°</source>
        <translation>um %L1 Pixel und %L2° verschoben</translation>
    </message>
    <message>
        <source>moved {:.0f} pixels and is soft</source>
        <translation>bewegte sich um {:.0Lf} Pixel und ist unscharf</translation>
    </message>
    <message>
        <source>movement looked at closely</source>
        <translation>Bewegung genau betrachtet</translation>
    </message>
    <message>
        <source>much moved in it: it may be left out</source>
        <translation>viel bewegte sich darin: kann weggelassen werden</translation>
    </message>
    <message>
        <source>name of a reading</source>
        <translation>Name einer Messung</translation>
    </message>
    <message>
        <source>name of the set</source>
        <translation>Name des Satzes</translation>
    </message>
    <message>
        <source>name of the view</source>
        <translation>Name des Motivs</translation>
    </message>
    <message>
        <source>needs few, clean borders between the two</source>
        <translation>braucht wenige, saubere Grenzen zwischen beiden</translation>
    </message>
    <message>
        <source>newest first</source>
        <translation>Neueste zuerst</translation>
    </message>
    <message>
        <source>night</source>
        <translation>Nacht</translation>
    </message>
    <message>
        <source>night lights</source>
        <translation>Lichter der Nacht</translation>
    </message>
    <message>
        <source>no area yet</source>
        <translation>keiner</translation>
    </message>
    <message>
        <source>no hand on the camera</source>
        <translation>keine Hand an der Kamera</translation>
    </message>
    <message>
        <source>no lines</source>
        <translation>keine Linien</translation>
    </message>
    <message>
        <source>no raw, no control</source>
        <translation>kein Raw, keine Kontrolle</translation>
    </message>
    <message>
        <source>no space is left on the device</source>
        <translation>auf dem Gerät ist kein Platz mehr</translation>
    </message>
    <message>
        <source>no sun in window</source>
        <translation>Sonne abseits</translation>
    </message>
    <message>
        <source>no time</source>
        <translation>keine Zeit</translation>
    </message>
    <message>
        <source>noise in the shadows</source>
        <translation>Rauschen in den Schatten</translation>
    </message>
    <message>
        <source>noise in the shadows; no help beyond the sensor</source>
        <translation>Rauschen in den Schatten; keine Hilfe über den Sensor hinaus</translation>
    </message>
    <message>
        <source>none</source>
        <translation>keine</translation>
    </message>
    <message>
        <source>not aligned: tripod</source>
        <translation>nicht ausgerichtet: Stativ</translation>
    </message>
    <message>
        <source>not begun</source>
        <translation>nicht begonnen</translation>
    </message>
    <message>
        <source>not covered</source>
        <translation>nicht gefasst</translation>
    </message>
    <message>
        <source>not moved</source>
        <translation>nicht bewegt</translation>
    </message>
    <message>
        <source>not now</source>
        <translation>jetzt nicht</translation>
    </message>
    <message>
        <source>not the planned time</source>
        <translation>nicht die geplante Zeit</translation>
    </message>
    <message>
        <source>not there</source>
        <translation>nicht da</translation>
    </message>
    <message>
        <source>not too surely</source>
        <translation>nicht allzu sicher</translation>
    </message>
    <message>
        <source>notes</source>
        <translation>Notizen</translation>
    </message>
    <message>
        <source>nothing</source>
        <translation>nichts</translation>
    </message>
    <message>
        <source>nothing to see but a hand, a cap or the dark: it marks the end of a set</source>
        <translation>nichts zu sehen als eine Hand, ein Deckel oder Dunkelheit: Es markiert das Ende eines Satzes</translation>
    </message>
    <message>
        <source>nothing wrong</source>
        <translation>nichts auszusetzen</translation>
    </message>
    <message>
        <source>of a low sun</source>
        <translation>tiefer Sonne</translation>
    </message>
    <message>
        <source>of any kind</source>
        <translation>jeder Art</translation>
    </message>
    <message>
        <source>of day</source>
        <translation>des Tages</translation>
    </message>
    <message>
        <source>of day without sun in the window</source>
        <translation>des Tages ohne Sonne im Fenster</translation>
    </message>
    <message>
        <source>of night</source>
        <translation>der Nacht</translation>
    </message>
    <message>
        <source>off</source>
        <translation>aus</translation>
    </message>
    <message>
        <source>office</source>
        <translation>Büro</translation>
    </message>
    <message>
        <source>oldest first</source>
        <translation>Älteste zuerst</translation>
    </message>
    <message>
        <source>on</source>
        <translation>an</translation>
    </message>
    <message>
        <source>on the left</source>
        <translation>links</translation>
    </message>
    <message>
        <source>on the right</source>
        <translation>rechts</translation>
    </message>
    <message>
        <source>one balance for all frames</source>
        <translation>ein Abgleich für alle Aufnahmen</translation>
    </message>
    <message>
        <source>one curve for all tones</source>
        <translation>eine Kurve für alle Töne</translation>
    </message>
    <message>
        <source>one exposure, simulated</source>
        <translation>eine Belichtung, nachgebildet</translation>
    </message>
    <message>
        <source>one fault</source>
        <translation>ein Fehler</translation>
    </message>
    <message>
        <source>one for the window, one for the room, joined by tone</source>
        <translation>eine für das Fenster, eine für den Raum, nach Tönen verbunden</translation>
    </message>
    <message>
        <source>one frame</source>
        <translation>eine Aufnahme</translation>
    </message>
    <message>
        <source>one frame more at {}</source>
        <translation>noch eine Aufnahme mit {}</translation>
    </message>
    <message>
        <source>one frame, %1</source>
        <translation>eine Aufnahme, %L1</translation>
    </message>
    <message>
        <source>one frame, exposure not said</source>
        <translation>eine Aufnahme, Belichtung nicht genannt</translation>
    </message>
    <message>
        <source>one light reaches all of it</source>
        <translation>ein Licht erreicht alles davon</translation>
    </message>
    <message>
        <source>one more at {}</source>
        <translation>noch eine mit {}</translation>
    </message>
    <message>
        <source>one of them shot again</source>
        <translation>eine davon noch einmal aufgenommen</translation>
    </message>
    <message>
        <source>one set</source>
        <translation>ein Satz</translation>
    </message>
    <message>
        <source>one single frame</source>
        <translation>eine einzelne Aufnahme</translation>
    </message>
    <message>
        <source>one stop apart</source>
        <translation>eine Blende auseinander</translation>
    </message>
    <message>
        <source>one the next position of a panorama</source>
        <translation>eines die nächste Position eines Panoramas</translation>
    </message>
    <message>
        <source>one under another light</source>
        <translation>eine in anderem Licht</translation>
    </message>
    <message>
        <source>only 8- and 16-bit, or 32-bit float, grey or RGB TIFF files are read as frames</source>
        <translation>nur TIFF-Dateien mit 8 und 16 Bit oder 32-Bit-Gleitkomma, grau oder RGB, werden als Aufnahmen gelesen</translation>
    </message>
    <message>
        <source>only grey and RGB JPEG files are read</source>
        <translation>nur graue und RGB-JPEG-Dateien werden gelesen</translation>
    </message>
    <message>
        <source>opening it at {}</source>
        <translation>Öffnen bei {}</translation>
    </message>
    <message>
        <source>out of date</source>
        <translation>veraltet</translation>
    </message>
    <message>
        <source>over %1</source>
        <translation>über %L1</translation>
    </message>
    <message>
        <source>over EV %1</source>
        <translation>über EV %L1</translation>
    </message>
    <message>
        <source>overcast, shade</source>
        <translation>bedeckt, Schatten</translation>
    </message>
    <message>
        <source>passers-by taken out</source>
        <translation>Passanten entfernt</translation>
    </message>
    <message>
        <source>perspective</source>
        <translation>gerade Linien</translation>
    </message>
    <message>
        <source>picture {}</source>
        <translation>Bild {}</translation>
    </message>
    <message>
        <source>pictures are natural, texture, colour, flat or grey</source>
        <translation>Bilder sind natural, texture, colour, flat oder grey</translation>
    </message>
    <message>
        <source>place</source>
        <translation>Ort</translation>
    </message>
    <message>
        <source>place from the frames</source>
        <translation>Ort aus den Aufnahmen</translation>
    </message>
    <message>
        <source>plan</source>
        <translation>Plan</translation>
    </message>
    <message>
        <source>plane %1</source>
        <translation>Ebene %L1</translation>
    </message>
    <message>
        <source>planes of focus</source>
        <translation>Schärfeebenen</translation>
    </message>
    <message>
        <source>planned</source>
        <translation>geplant</translation>
    </message>
    <message>
        <source>pointed at, but called natural</source>
        <translation>gezeigt, aber natürlich genannt</translation>
    </message>
    <message>
        <source>position {}</source>
        <translation>Position {}</translation>
    </message>
    <message>
        <source>positions</source>
        <translation>Positionen</translation>
    </message>
    <message>
        <source>practice</source>
        <translation>Übung</translation>
    </message>
    <message>
        <source>print TIFF</source>
        <translation>Druck-TIFF</translation>
    </message>
    <message>
        <source>proposed readings</source>
        <translation>vorgeschlagene Messungen</translation>
    </message>
    <message>
        <source>pulls must lie between -12 and 2 stops of paper</source>
        <translation>Züge müssen zwischen -12 und 2 Blenden Papier liegen</translation>
    </message>
    <message>
        <source>quick delivery</source>
        <translation>schnelle Lieferung</translation>
    </message>
    <message>
        <source>quite surely</source>
        <translation>recht sicher</translation>
    </message>
    <message>
        <source>reading</source>
        <translation>Messung</translation>
    </message>
    <message>
        <source>reading it is not permitted</source>
        <translation>sie darf nicht gelesen werden</translation>
    </message>
    <message>
        <source>reading its settings</source>
        <translation>Lesen ihrer Einstellungen</translation>
    </message>
    <message>
        <source>reading {}</source>
        <translation>Lesen von {}</translation>
    </message>
    <message>
        <source>readings lie between EV -15 and 30</source>
        <translation>Messungen liegen zwischen EV -15 und 30</translation>
    </message>
    <message>
        <source>readings lie between EV -15 and EV 30</source>
        <translation>Messungen liegen zwischen EV -15 und EV 30</translation>
    </message>
    <message>
        <source>releasing the shutter</source>
        <translation>Auslösen</translation>
    </message>
    <message>
        <source>removal of a reading</source>
        <translation>Entfernen einer Messung</translation>
    </message>
    <message>
        <source>right</source>
        <translation>rechts</translation>
    </message>
    <message>
        <source>right.</source>
        <translation>richtig.</translation>
    </message>
    <message>
        <source>rights</source>
        <translation>Rechte</translation>
    </message>
    <message>
        <source>rooms at home</source>
        <translation>Wohnräume</translation>
    </message>
    <message>
        <source>rose</source>
        <translation>stieg</translation>
    </message>
    <message>
        <source>row %1, column %2</source>
        <translation>Reihe %L1, Spalte %L2</translation>
    </message>
    <message>
        <source>rows</source>
        <translation>Reihen</translation>
    </message>
    <message>
        <source>sRGB: the colour profile of this screen is of a kind that cannot be used (no primaries and curves)</source>
        <translation>sRGB: Das Farbprofil dieses Bildschirms ist von einer unbrauchbaren Art (keine Grundfarben und Kurven)</translation>
    </message>
    <message>
        <source>sRGB: the system names no other colours for this screen</source>
        <translation>sRGB: Das System nennt keine anderen Farben für diesen Bildschirm</translation>
    </message>
    <message>
        <source>saturation must lie between 0 and 2, vivid between -1 and 2</source>
        <translation>die Sättigung muss zwischen 0 und 2 liegen, Lebhaftes zwischen -1 und 2</translation>
    </message>
    <message>
        <source>set</source>
        <translation>Satz</translation>
    </message>
    <message>
        <source>set </source>
        <translation>Satz </translation>
    </message>
    <message>
        <source>set a frame aside</source>
        <translation>Aufnahme beiseitelegen</translation>
    </message>
    <message>
        <source>set aside</source>
        <translation>beiseitegelegt</translation>
    </message>
    <message>
        <source>set by you</source>
        <translation>von Ihnen festgelegt</translation>
    </message>
    <message>
        <source>set to {}, {}</source>
        <translation>auf {}, {} gestellt</translation>
    </message>
    <message>
        <source>sets</source>
        <translation>Sätzen</translation>
    </message>
    <message>
        <source>setting {} to {}</source>
        <translation>Stellen von {} auf {}</translation>
    </message>
    <message>
        <source>sharp from {} to {}; focused at {}, all beyond half of it is sharp; a point spreads over {:.1f} um ({:.1f} pixels)</source>
        <translation>scharf von {} bis {}; auf {} gestellt, ist alles jenseits der Hälfte scharf; ein Punkt verteilt sich auf {:.1Lf} um ({:.1Lf} Pixel)</translation>
    </message>
    <message>
        <source>sharpening must lie between 0 and 2, noise reduction between 0 and 1</source>
        <translation>die Schärfung muss zwischen 0 und 2 liegen, die Rauschminderung zwischen 0 und 1</translation>
    </message>
    <message>
        <source>shift the lens down by half a frame</source>
        <translation>das Objektiv um ein halbes Bild nach unten schieben</translation>
    </message>
    <message>
        <source>shift the lens up by half a frame</source>
        <translation>das Objektiv um ein halbes Bild nach oben schieben</translation>
    </message>
    <message>
        <source>shot</source>
        <translation>aufgenommen</translation>
    </message>
    <message>
        <source>side by side</source>
        <translation>nebeneinander</translation>
    </message>
    <message>
        <source>sky, corner</source>
        <translation>Himmel, Ecke</translation>
    </message>
    <message>
        <source>small brush</source>
        <translation>kleiner Pinsel</translation>
    </message>
    <message>
        <source>small spot</source>
        <translation>Punkt klein</translation>
    </message>
    <message>
        <source>smooth steps over eight stops</source>
        <translation>feine Schritte über acht Blenden</translation>
    </message>
    <message>
        <source>smooth steps over six stops</source>
        <translation>feine Schritte über sechs Blenden</translation>
    </message>
    <message>
        <source>snow in full sun</source>
        <translation>Schnee in voller Sonne</translation>
    </message>
    <message>
        <source>soft</source>
        <translation>unscharf</translation>
    </message>
    <message>
        <source>softness must lie between 0 and 1</source>
        <translation>die Weichheit muss zwischen 0 und 1 liegen</translation>
    </message>
    <message>
        <source>something moved, {:.1f} % of the picture</source>
        <translation>etwas bewegte sich, {:.1Lf} % des Bildes</translation>
    </message>
    <message>
        <source>something was wrong</source>
        <translation>etwas stimmte nicht</translation>
    </message>
    <message>
        <source>stands and ways</source>
        <translation>Standorte und Wege</translation>
    </message>
    <message>
        <source>stands elsewhere in other frames</source>
        <translation>steht in anderen Aufnahmen anderswo</translation>
    </message>
    <message>
        <source>stops</source>
        <translation>Blenden</translation>
    </message>
    <message>
        <source>stops longer than 1 / focal length; dashed: four of five are sharp</source>
        <translation>Blenden länger als 1 / Brennweite; gestrichelt: vier von fünf sind scharf</translation>
    </message>
    <message>
        <source>strength must lie between 0 and 1</source>
        <translation>die Stärke muss zwischen 0 und 1 liegen</translation>
    </message>
    <message>
        <source>sun on front</source>
        <translation>Sonne auf Front</translation>
    </message>
    <message>
        <source>sunrise</source>
        <translation>Sonnenaufgang</translation>
    </message>
    <message>
        <source>sunset</source>
        <translation>Sonnenuntergang</translation>
    </message>
    <message>
        <source>switch automatic ISO off</source>
        <translation>die ISO-Automatik ausschalten</translation>
    </message>
    <message>
        <source>tags and lesson</source>
        <translation>Stichwörter und Lehre</translation>
    </message>
    <message>
        <source>take back</source>
        <translation>zurücknehmen</translation>
    </message>
    <message>
        <source>the AVIF data are damaged ({})</source>
        <translation>die AVIF-Daten sind beschädigt ({})</translation>
    </message>
    <message>
        <source>the HEIF data are damaged or of a kind not read here ({})</source>
        <translation>die HEIF-Daten sind beschädigt oder von einer hier nicht gelesenen Art ({})</translation>
    </message>
    <message>
        <source>the ISO must lie between 6 and 3276800</source>
        <translation>die ISO muss zwischen 6 und 3276800 liegen</translation>
    </message>
    <message>
        <source>the JPEG XL data are damaged or end early</source>
        <translation>die JPEG-XL-Daten sind beschädigt oder enden zu früh</translation>
    </message>
    <message>
        <source>the JPEG XL decoder does not start</source>
        <translation>der JPEG-XL-Leser startet nicht</translation>
    </message>
    <message>
        <source>the JPEG XL encoder refuses {}</source>
        <translation>der JPEG-XL-Schreiber lehnt ab: {}</translation>
    </message>
    <message>
        <source>the JPEG data are damaged ({})</source>
        <translation>die JPEG-Daten sind beschädigt ({})</translation>
    </message>
    <message>
        <source>the JPEG data end early or are damaged ({})</source>
        <translation>die JPEG-Daten enden zu früh oder sind beschädigt ({})</translation>
    </message>
    <message>
        <source>the OpenEXR data are damaged ({})</source>
        <translation>die OpenEXR-Daten sind beschädigt ({})</translation>
    </message>
    <message>
        <source>the PNG data are damaged ({})</source>
        <translation>die PNG-Daten sind beschädigt ({})</translation>
    </message>
    <message>
        <source>the SNR target must be above 0 and at most 1000</source>
        <translation>der SNR muss über 0 und höchstens 1000 sein</translation>
    </message>
    <message>
        <source>the TIFF data end early ({})</source>
        <translation>die TIFF-Daten enden zu früh ({})</translation>
    </message>
    <message>
        <source>the TIFF header is damaged ({})</source>
        <translation>der TIFF-Kopf ist beschädigt ({})</translation>
    </message>
    <message>
        <source>the aperture changed to {}</source>
        <translation>die Blende wechselte auf {}</translation>
    </message>
    <message>
        <source>the aperture must lie between f/0.5 and f/128</source>
        <translation>die Blende muss zwischen f/0,5 und f/128 liegen</translation>
    </message>
    <message>
        <source>the aperture went to {}</source>
        <translation>die Blende ging auf {}</translation>
    </message>
    <message>
        <source>the boat hall, its doors</source>
        <translation>die Bootshalle, ihre Tore</translation>
    </message>
    <message>
        <source>the boat hall, its wall</source>
        <translation>die Bootshalle, ihre Wand</translation>
    </message>
    <message>
        <source>the brightest reading lies below the darkest</source>
        <translation>die hellste Messung liegt unter der dunkelsten</translation>
    </message>
    <message>
        <source>the brightest {} clip</source>
        <translation>die hellsten {} fressen aus</translation>
    </message>
    <message>
        <source>the colour profile that the system names</source>
        <translation>das Farbprofil, das das System nennt</translation>
    </message>
    <message>
        <source>the colour space</source>
        <translation>den Farbraum</translation>
    </message>
    <message>
        <source>the crop must lie inside the picture</source>
        <translation>der Schnitt muss im Bild liegen</translation>
    </message>
    <message>
        <source>the darkest {} stay noisier than SNR {:g}</source>
        <translation>die dunkelsten {} bleiben rauschiger als SNR {:Lg}</translation>
    </message>
    <message>
        <source>the disk is full</source>
        <translation>die Platte ist voll</translation>
    </message>
    <message>
        <source>the everyday set for rooms and landscapes</source>
        <translation>der alltägliche Satz für Räume und Landschaften</translation>
    </message>
    <message>
        <source>the far shore</source>
        <translation>das ferne Ufer</translation>
    </message>
    <message>
        <source>the floor</source>
        <translation>der Boden</translation>
    </message>
    <message>
        <source>the focal length changed to {:.0f} mm</source>
        <translation>die Brennweite wechselte auf {:.0Lf} mm</translation>
    </message>
    <message>
        <source>the foot of a sphere is covered by at most 40 degrees</source>
        <translation>der Fuß einer Kugel wird um höchstens 40 Grad zugedeckt</translation>
    </message>
    <message>
        <source>the frame you metered</source>
        <translation>die gemessene Aufnahme</translation>
    </message>
    <message>
        <source>the highest ISO must lie between 6 and 3276800</source>
        <translation>die höchste ISO muss zwischen 6 und 3276800 liegen</translation>
    </message>
    <message>
        <source>the highlight margin must be 0 to 4 stops</source>
        <translation>die Reserve in den Lichtern muss 0 bis 4 Blenden sein</translation>
    </message>
    <message>
        <source>the jetty from the shore</source>
        <translation>der Steg vom Ufer aus</translation>
    </message>
    <message>
        <source>the lens correction is too large</source>
        <translation>die Objektivkorrektur ist zu groß</translation>
    </message>
    <message>
        <source>the logarithm of light</source>
        <translation>der Logarithmus des Lichts</translation>
    </message>
    <message>
        <source>the longest time must be above 0 s</source>
        <translation>die längste Zeit muss über 0 s liegen</translation>
    </message>
    <message>
        <source>the metadata</source>
        <translation>die Metadaten</translation>
    </message>
    <message>
        <source>the one before was not done yet.</source>
        <translation>der davor war noch nicht fertig.</translation>
    </message>
    <message>
        <source>the picture is turned too far</source>
        <translation>das Bild ist zu weit gedreht</translation>
    </message>
    <message>
        <source>the pixels</source>
        <translation>die Pixel</translation>
    </message>
    <message>
        <source>the raw data are damaged or unknown ({})</source>
        <translation>die Raw-Daten sind beschädigt oder unbekannt ({})</translation>
    </message>
    <message>
        <source>the raw file holds no picture, all its pixels are the same</source>
        <translation>die Raw-Datei enthält kein Bild, alle Pixel sind gleich</translation>
    </message>
    <message>
        <source>the reading room, its shelves</source>
        <translation>der Lesesaal, seine Regale</translation>
    </message>
    <message>
        <source>the reading room, its window</source>
        <translation>der Lesesaal, sein Fenster</translation>
    </message>
    <message>
        <source>the readings must be numbers</source>
        <translation>die Messungen müssen Zahlen sein</translation>
    </message>
    <message>
        <source>the reference frame is not among the frames</source>
        <translation>die Bezugsaufnahme ist nicht unter den Aufnahmen</translation>
    </message>
    <message>
        <source>the rest</source>
        <translation>Rest</translation>
    </message>
    <message>
        <source>the same at high ISO</source>
        <translation>dasselbe bei hoher ISO</translation>
    </message>
    <message>
        <source>the shadows rest on one frame</source>
        <translation>die Schatten ruhen auf einer Aufnahme</translation>
    </message>
    <message>
        <source>the size</source>
        <translation>die Größe</translation>
    </message>
    <message>
        <source>the sun does not reach a front seen towards {:.0f} degrees then</source>
        <translation>eine nach {:.0Lf} Grad gewandte Front erreicht die Sonne dann nicht</translation>
    </message>
    <message>
        <source>the sun does not stand low then</source>
        <translation>die Sonne steht dann nicht tief</translation>
    </message>
    <message>
        <source>the sun is not up then</source>
        <translation>die Sonne ist dann nicht auf</translation>
    </message>
    <message>
        <source>the time for the set must be above 0 s</source>
        <translation>die Zeit für den Satz muss über 0 s liegen</translation>
    </message>
    <message>
        <source>the time to set</source>
        <translation>die einzustellende Zeit</translation>
    </message>
    <message>
        <source>the time to set; the others are longer</source>
        <translation>die einzustellende Zeit; die anderen sind länger</translation>
    </message>
    <message>
        <source>the time to set; the others lie around it</source>
        <translation>die einzustellende Zeit; die anderen liegen darum herum</translation>
    </message>
    <message>
        <source>the tone below which nothing is replaced must be darker than the one above which all is</source>
        <translation>der Ton, unter dem nichts ersetzt wird, muss dunkler sein als der, über dem alles ersetzt wird</translation>
    </message>
    <message>
        <source>the tones must lie between 0 and 255</source>
        <translation>die Töne müssen zwischen 0 und 255 liegen</translation>
    </message>
    <message>
        <source>the usual place</source>
        <translation>der übliche Ort</translation>
    </message>
    <message>
        <source>the view from one moment, people from another</source>
        <translation>das Motiv aus einem Augenblick, Menschen aus einem anderen</translation>
    </message>
    <message>
        <source>the whole set from one press</source>
        <translation>der ganze Satz mit einem Druck</translation>
    </message>
    <message>
        <source>there are too many parts</source>
        <translation>es sind zu viele Teile</translation>
    </message>
    <message>
        <source>there are too many pulls</source>
        <translation>es sind zu viele Züge</translation>
    </message>
    <message>
        <source>there is no fault "{}"</source>
        <translation>es gibt keinen Fehler "{}"</translation>
    </message>
    <message>
        <source>there is no such fault</source>
        <translation>es gibt keinen solchen Fehler</translation>
    </message>
    <message>
        <source>there is no such twilight of the evening then</source>
        <translation>dann gibt es keine solche Abenddämmerung</translation>
    </message>
    <message>
        <source>there is no such twilight of the morning then</source>
        <translation>dann gibt es keine solche Morgendämmerung</translation>
    </message>
    <message>
        <source>there is no time for it in this visit</source>
        <translation>in diesem Termin ist keine Zeit dafür</translation>
    </message>
    <message>
        <source>there must be some space on the card</source>
        <translation>auf der Karte muss etwas Platz sein</translation>
    </message>
    <message>
        <source>there: %1 % from the left, %2 % from the top</source>
        <translation>dort: %L1 % von links, %L2 % von oben</translation>
    </message>
    <message>
        <source>they do not show: noise is past seeing already (SNR 40, ISO 12232)</source>
        <translation>man sieht sie nicht: Das Rauschen ist schon unsichtbar (SNR 40, ISO 12232)</translation>
    </message>
    <message>
        <source>they hardly show</source>
        <translation>man sieht sie kaum</translation>
    </message>
    <message>
        <source>they show in lifted shadows</source>
        <translation>man sieht sie in angehobenen Schatten</translation>
    </message>
    <message>
        <source>they show: the shadows become acceptable (SNR 10, ISO 12232)</source>
        <translation>man sieht sie: Die Schatten werden annehmbar (SNR 10, ISO 12232)</translation>
    </message>
    <message>
        <source>they show: three frames clip the brightest {}</source>
        <translation>man sieht sie: Drei Aufnahmen lassen die hellsten {} ausfressen</translation>
    </message>
    <message>
        <source>thirds</source>
        <translation>Drittel</translation>
    </message>
    <message>
        <source>this camera writes no raw</source>
        <translation>diese Kamera schreibt kein Raw</translation>
    </message>
    <message>
        <source>this camera writes no raw files; shoot JPEG</source>
        <translation>diese Kamera schreibt keine Raw-Dateien; JPEG aufnehmen</translation>
    </message>
    <message>
        <source>this camera's bracketing does not offer this set</source>
        <translation>die Reihenautomatik dieser Kamera bietet diesen Satz nicht</translation>
    </message>
    <message>
        <source>this finish as it stands now</source>
        <translation>diese Ausarbeitung, wie sie jetzt steht</translation>
    </message>
    <message>
        <source>three stops apart</source>
        <translation>drei Blenden auseinander</translation>
    </message>
    <message>
        <source>tilt %1 degrees down</source>
        <translation>um %L1 Grad nach unten neigen</translation>
    </message>
    <message>
        <source>tilt %1 degrees up</source>
        <translation>um %L1 Grad nach oben neigen</translation>
    </message>
    <message>
        <source>time fixed</source>
        <translation>Zeit fest</translation>
    </message>
    <message>
        <source>time not said</source>
        <translation>Zeit nicht genannt</translation>
    </message>
    <message>
        <source>time of the visit</source>
        <translation>Zeit des Termins</translation>
    </message>
    <message>
        <source>time, and what moves meanwhile</source>
        <translation>Zeit, und was sich inzwischen bewegt</translation>
    </message>
    <message>
        <source>time, space, ghosts</source>
        <translation>Zeit, Platz, Geister</translation>
    </message>
    <message>
        <source>timer or remote</source>
        <translation>Selbst- oder Fernauslöser</translation>
    </message>
    <message>
        <source>to</source>
        <translation>bis</translation>
    </message>
    <message>
        <source>to be shot</source>
        <translation>aufzunehmen</translation>
    </message>
    <message>
        <source>to go on</source>
        <translation>weiterzumachen</translation>
    </message>
    <message>
        <source>to protect highlights the meter overlooks</source>
        <translation>um Lichter zu schützen, die der Belichtungsmesser übersieht</translation>
    </message>
    <message>
        <source>tones near EV {:.1f} reach only SNR {:.0f}</source>
        <translation>Töne bei EV {:.1Lf} erreichen nur SNR {:.0Lf}</translation>
    </message>
    <message>
        <source>too colourful</source>
        <translation>zu bunt</translation>
    </message>
    <message>
        <source>too early, the sky still outshines the lamps.</source>
        <translation>zu früh, der Himmel überstrahlt noch die Lampen.</translation>
    </message>
    <message>
        <source>too grey and dark</source>
        <translation>zu grau und dunkel</translation>
    </message>
    <message>
        <source>too late, the sky is gone.</source>
        <translation>zu spät, der Himmel ist weg.</translation>
    </message>
    <message>
        <source>top, middle, bottom</source>
        <translation>oben, Mitte, unten</translation>
    </message>
    <message>
        <source>turn %1 degrees to the left</source>
        <translation>um %L1 Grad nach links drehen</translation>
    </message>
    <message>
        <source>turn %1 degrees to the right</source>
        <translation>um %L1 Grad nach rechts drehen</translation>
    </message>
    <message>
        <source>twilight</source>
        <translation>Dämmerung</translation>
    </message>
    <message>
        <source>twilight from</source>
        <translation>Dämmerung ab</translation>
    </message>
    <message>
        <source>two stops apart</source>
        <translation>zwei Blenden auseinander</translation>
    </message>
    <message>
        <source>under EV %1</source>
        <translation>unter EV %L1</translation>
    </message>
    <message>
        <source>until</source>
        <translation>bis</translation>
    </message>
    <message>
        <source>up</source>
        <translation>auf</translation>
    </message>
    <message>
        <source>usual spot</source>
        <translation>Punkt mittel</translation>
    </message>
    <message>
        <source>veil must lie between 0 and 1, quiet between 0 and 2</source>
        <translation>der Schleier muss zwischen 0 und 1 liegen, die Ruhe zwischen 0 und 2</translation>
    </message>
    <message>
        <source>view done</source>
        <translation>Motiv fertig</translation>
    </message>
    <message>
        <source>view not done</source>
        <translation>Motiv nicht fertig</translation>
    </message>
    <message>
        <source>view of the visit</source>
        <translation>Motiv des Termins</translation>
    </message>
    <message>
        <source>view out of the visit</source>
        <translation>Motiv aus dem Termin</translation>
    </message>
    <message>
        <source>view {}: {}</source>
        <translation>Motiv {}: {}</translation>
    </message>
    <message>
        <source>views left out</source>
        <translation>Motive weggelassen</translation>
    </message>
    <message>
        <source>views taken back</source>
        <translation>Motive wieder aufgenommen</translation>
    </message>
    <message>
        <source>wait until it is steady and shoot the set again</source>
        <translation>warten, bis es stetig ist, und den Satz neu aufnehmen</translation>
    </message>
    <message>
        <source>waits to be combined</source>
        <translation>wartet auf das Vereinen</translation>
    </message>
    <message>
        <source>warmer</source>
        <translation>wärmer</translation>
    </message>
    <message>
        <source>warmth and tint must lie between -4 and 4 stops</source>
        <translation>Wärme und Tönung müssen zwischen -4 und 4 Blenden liegen</translation>
    </message>
    <message>
        <source>web JPEG</source>
        <translation>Netz-JPEG</translation>
    </message>
    <message>
        <source>what must keep texture</source>
        <translation>was Zeichnung behalten muss</translation>
    </message>
    <message>
        <source>what was kept in `{}` while the picture is finished cannot be read</source>
        <translation>was während der Ausarbeitung in `{}` aufgehoben wurde, lässt sich nicht lesen</translation>
    </message>
    <message>
        <source>when nothing moves: smoother joins, a cleaner merge</source>
        <translation>wenn sich nichts bewegt: weichere Übergänge, saubereres Ergebnis</translation>
    </message>
    <message>
        <source>when the camera's bracket is too short: again, two stops darker</source>
        <translation>wenn die Reihe der Kamera zu kurz ist: noch einmal, zwei Blenden dunkler</translation>
    </message>
    <message>
        <source>whenever the sun is up then, it stands before a window towards {:.0f} degrees</source>
        <translation>sooft die Sonne dann auf ist, steht sie vor einem Fenster nach {:.0Lf} Grad</translation>
    </message>
    <message>
        <source>where the scene fits: shadows lifted, highlights held</source>
        <translation>wo die Szene hineinpasst: Schatten gehoben, Lichter gehalten</translation>
    </message>
    <message>
        <source>where? Click it in the picture</source>
        <translation>wo? Ins Bild klicken</translation>
    </message>
    <message>
        <source>white</source>
        <translation>Weiß</translation>
    </message>
    <message>
        <source>white balance changed</source>
        <translation>Weißabgleich geändert</translation>
    </message>
    <message>
        <source>with flash</source>
        <translation>mit Blitz</translation>
    </message>
    <message>
        <source>with sun on the front</source>
        <translation>mit Sonne auf der Front</translation>
    </message>
    <message>
        <source>{:.0f} megapixels</source>
        <translation>{:.0Lf} Megapixel</translation>
    </message>
    <message>
        <source>{:.1f} % of the picture is at black{}.</source>
        <translation>{:.1Lf} % des Bildes sind schwarz{}.</translation>
    </message>
    <message>
        <source>{:.1f} % of the picture is at white{}.</source>
        <translation>{:.1Lf} % des Bildes sind weiß{}.</translation>
    </message>
    <message>
        <source>{:.1f} % of the picture is cut in the darkest frame; if that is not lamps or glints, one more frame at {} would hold it.</source>
        <translation>{:.1Lf} % des Bildes sind in der dunkelsten Aufnahme abgeschnitten; sind das nicht Lampen oder Glanzlichter, würde eine weitere Aufnahme mit {} sie halten.</translation>
    </message>
    <message>
        <source>{:.1f} % of the picture is more colourful than the scene was{}.</source>
        <translation>{:.1Lf} % des Bildes sind bunter, als die Szene war{}.</translation>
    </message>
    <message>
        <source>{:.1f} megapixels</source>
        <translation>{:.1Lf} Megapixel</translation>
    </message>
    <message>
        <source>{:.1f} minutes on site, {:.1f} at the desk</source>
        <translation>{:.1Lf} Minuten vor Ort, {:.1Lf} am Schreibtisch</translation>
    </message>
    <message>
        <source>{:.1f} stop</source>
        <translation>{:.1Lf} Blende</translation>
    </message>
    <message>
        <source>{:.1f} stops</source>
        <translation>{:.1Lf} Blenden</translation>
    </message>
    <message>
        <source>{:.2f} % of the picture are dark blotches of one pure colour{}.</source>
        <translation>{:.2Lf} % des Bildes sind dunkle Flecken einer einzigen reinen Farbe{}.</translation>
    </message>
    <message>
        <source>{:.2g} m</source>
        <translation>{:.2Lg} m</translation>
    </message>
    <message>
        <source>{:.3g} ft</source>
        <translation>{:.3Lg} ft</translation>
    </message>
    <message>
        <source>{:g} s, or a remote</source>
        <translation>{:Lg} s oder Fernauslöser</translation>
    </message>
    <message>
        <source>{:g} stop</source>
        <translation>{:Lg} Blende</translation>
    </message>
    <message>
        <source>{:g} stops</source>
        <translation>{:Lg} Blenden</translation>
    </message>
    <message>
        <source>{job} {view} {number} {date} {target} {width} {height}</source>
        <translation>{job} {view} {number} {date} {target} {width} {height}</translation>
    </message>
    <message>
        <source>{} (own)</source>
        <translation>{} (eigenes)</translation>
    </message>
    <message>
        <source>{} ({}): {}. Choices: {}.</source>
        <translation>{} ({}): {}. Zur Wahl: {}.</translation>
    </message>
    <message>
        <source>{} EV against the first run; without touching the tripod</source>
        <translation>{} EV gegen den ersten Durchgang; ohne das Stativ zu berühren</translation>
    </message>
    <message>
        <source>{} Then go on.</source>
        <translation>{} Dann weitermachen.</translation>
    </message>
    <message>
        <source>{} are not enough with this camera: {}. {}</source>
        <translation>{} reichen mit dieser Kamera nicht: {}. {}</translation>
    </message>
    <message>
        <source>{} blur by {:.0f} pixels in the longest frame; wait for a lull, or choose one frame for them at Combine.</source>
        <translation>{} verwischen in der längsten Aufnahme um {:.0Lf} Pixel; auf eine Windstille warten oder beim Vereinen eine Aufnahme dafür wählen.</translation>
    </message>
    <message>
        <source>{} cannot be joined: it shares too little with the others, or shows another place; shoot it with a third of overlap, or leave it out.</source>
        <translation>{} lässt sich nicht verbinden: Sie hat zu wenig mit den anderen gemeinsam oder zeigt einen anderen Ort; mit einem Drittel Überlappung aufnehmen oder weglassen.</translation>
    </message>
    <message>
        <source>{} cannot be joined: near and far things lie differently in it, by {:.0f} pixels; turn the camera about the lens's entrance pupil, or leave it out.</source>
        <translation>{} lässt sich nicht verbinden: Nahes und Fernes liegen darin um {:.0Lf} Pixel verschieden; die Kamera um die Eintrittspupille des Objektivs drehen oder weglassen.</translation>
    </message>
    <message>
        <source>{} files are left out: {}</source>
        <translation>{} Dateien bleiben weg: {}</translation>
    </message>
    <message>
        <source>{} find no time, first {}.</source>
        <translation>{} finden keine Zeit, zuerst {}.</translation>
    </message>
    <message>
        <source>{} finds no light during the visit: light {} lasts from {}.</source>
        <translation>{} findet während des Termins kein Licht: Licht {} dauert von {}.</translation>
    </message>
    <message>
        <source>{} finds no light: {}.</source>
        <translation>{} findet kein Licht: {}.</translation>
    </message>
    <message>
        <source>{} frames</source>
        <translation>{} Aufnahmen</translation>
    </message>
    <message>
        <source>{} frames fewer</source>
        <translation>{} Aufnahmen weniger</translation>
    </message>
    <message>
        <source>{} frames from {} to {} {}</source>
        <translation>{} Aufnahmen von {} bis {} {}</translation>
    </message>
    <message>
        <source>{} frames from {} to {} {}; highlights and shadows are held, nothing large moved: go on.</source>
        <translation>{} Aufnahmen von {} bis {} {}; Lichter und Schatten sind gehalten, nichts Großes bewegte sich: weiter.</translation>
    </message>
    <message>
        <source>{} frames in {} sets, {} shot again</source>
        <translation>{} Aufnahmen in {} Sätzen, {} noch einmal aufgenommen</translation>
    </message>
    <message>
        <source>{} frames more</source>
        <translation>{} Aufnahmen mehr</translation>
    </message>
    <message>
        <source>{} frames more than needed.</source>
        <translation>{} Aufnahmen mehr als nötig.</translation>
    </message>
    <message>
        <source>{} frames, as the camera brackets by itself</source>
        <translation>{} Aufnahmen, wie die Kamera die Reihe selbst macht</translation>
    </message>
    <message>
        <source>{} frames, {}</source>
        <translation>{} Aufnahmen, {}</translation>
    </message>
    <message>
        <source>{} from {} to {}</source>
        <translation>{} von {} bis {}</translation>
    </message>
    <message>
        <source>{} h {} min</source>
        <translation>{} h {} min</translation>
    </message>
    <message>
        <source>{} has another size or shows another view: it is not of this set.</source>
        <translation>{} hat eine andere Größe oder zeigt ein anderes Motiv: Sie gehört nicht zu diesem Satz.</translation>
    </message>
    <message>
        <source>{} has {} x {} pixels and `{}` has {} x {}; join only positions of one size.</source>
        <translation>{} hat {} x {} Pixel und `{}` {} x {}; nur Positionen einer Größe verbinden.</translation>
    </message>
    <message>
        <source>{} is as light as {}.</source>
        <translation>{} ist so hell wie {}.</translation>
    </message>
    <message>
        <source>{} is beyond the steady hand ({}): about {:.0f} % of frames are sharp. Lean on something and shoot the set {} times, or use a tripod.</source>
        <translation>{} ist mehr, als die Hand ruhig hält ({}): Etwa {:.0Lf} % der Aufnahmen sind scharf. Anlehnen und den Satz {}-mal aufnehmen oder ein Stativ nehmen.</translation>
    </message>
    <message>
        <source>{} is not enough with this camera: {}. {}</source>
        <translation>{} reicht mit dieser Kamera nicht: {}. {}</translation>
    </message>
    <message>
        <source>{} is outside {} to {}</source>
        <translation>{} liegt außerhalb von {} bis {}</translation>
    </message>
    <message>
        <source>{} is {} darker than {}.</source>
        <translation>{} ist {} dunkler als {}.</translation>
    </message>
    <message>
        <source>{} leaves little room in the shadows; merging adds to noise that is lifted.</source>
        <translation>{} lässt in den Schatten wenig Raum; das Vereinen fügt gehobenem Rauschen hinzu.</translation>
    </message>
    <message>
        <source>{} lies between 0 and 1</source>
        <translation>{} liegt zwischen 0 und 1</translation>
    </message>
    <message>
        <source>{} min {} s</source>
        <translation>{} min {} s</translation>
    </message>
    <message>
        <source>{} minutes</source>
        <translation>{} Minuten</translation>
    </message>
    <message>
        <source>{} more at {}</source>
        <translation>noch {} mit {}</translation>
    </message>
    <message>
        <source>{} must be a number</source>
        <translation>{} muss eine Zahl sein</translation>
    </message>
    <message>
        <source>{} must be a time above 0</source>
        <translation>{} muss eine Zeit über 0 sein</translation>
    </message>
    <message>
        <source>{} must be a time such as "1/60"</source>
        <translation>{} muss eine Zeit wie "1/60" sein</translation>
    </message>
    <message>
        <source>{} must be text</source>
        <translation>{} muss Text sein</translation>
    </message>
    <message>
        <source>{} needs more memory than there is; close other programs, or work on smaller frames, and try again.</source>
        <translation>{} braucht mehr Speicher, als da ist; andere Programme schließen oder mit kleineren Aufnahmen arbeiten und noch einmal versuchen.</translation>
    </message>
    <message>
        <source>{} of the picture is darker than your darkest reading; one more frame at {} would hold it.</source>
        <translation>{} des Bildes ist dunkler als Ihre dunkelste Messung; eine weitere Aufnahme mit {} würde es halten.</translation>
    </message>
    <message>
        <source>{} of {}</source>
        <translation>{} von {}</translation>
    </message>
    <message>
        <source>{} of {} frames are there; {} are missing.</source>
        <translation>{} von {} Aufnahmen sind da; {} fehlen.</translation>
    </message>
    <message>
        <source>{} of {} frames are there; {} is missing.</source>
        <translation>{} von {} Aufnahmen sind da; {} fehlt.</translation>
    </message>
    <message>
        <source>{} of {} sets were shot.</source>
        <translation>{} von {} Sätzen wurden aufgenommen.</translation>
    </message>
    <message>
        <source>{} positions are more than can be joined; name at most {}.</source>
        <translation>{} Positionen sind mehr, als sich verbinden lassen; höchstens {} nennen.</translation>
    </message>
    <message>
        <source>{} positions{} joined to {} x {} pixels ({}, {}), each within {:.2f} pixels of its neighbours</source>
        <translation>{} Positionen{} zu {} x {} Pixeln verbunden ({}, {}), jede auf {:.2Lf} Pixel genau zu ihren Nachbarinnen</translation>
    </message>
    <message>
        <source>{} sets; {} of {} pairs of frames that belong together are together, {} that do not are.</source>
        <translation>{} Sätze; {} von {} Paaren, die zusammengehören, sind zusammen, {}, die es nicht tun, auch.</translation>
    </message>
    <message>
        <source>{} shows too little detail to be placed (a bare wall, sky or water); shoot it with more of its neighbours in it, or leave it out.</source>
        <translation>{} zeigt zu wenig Einzelheiten, um ihren Platz zu finden (eine kahle Wand, Himmel oder Wasser); mit mehr von den Nachbarinnen aufnehmen oder weglassen.</translation>
    </message>
    <message>
        <source>{} stand {:.0f} pixels apart between the first frame and the last; they will be taken from one frame.</source>
        <translation>{} stehen zwischen der ersten und der letzten Aufnahme {:.0Lf} Pixel auseinander; sie kommen aus einer Aufnahme.</translation>
    </message>
    <message>
        <source>{} stop</source>
        <translation>{} Blende</translation>
    </message>
    <message>
        <source>{} stop apart</source>
        <translation>{} Blende auseinander</translation>
    </message>
    <message>
        <source>{} stops</source>
        <translation>{} Blenden</translation>
    </message>
    <message>
        <source>{} stops apart</source>
        <translation>{} Blenden auseinander</translation>
    </message>
    <message>
        <source>{} takes {} between {}, and the others leave too little of that.</source>
        <translation>{} braucht {} zwischen {}, und die anderen lassen zu wenig davon.</translation>
    </message>
    <message>
        <source>{} takes {}, and its light lasts only from {} of the visit.</source>
        <translation>{} braucht {}, und sein Licht dauert nur von {} des Termins.</translation>
    </message>
    <message>
        <source>{} to {}</source>
        <translation>{} bis {}</translation>
    </message>
    <message>
        <source>{} to {}: {} frames.</source>
        <translation>{} bis {}: {} Aufnahmen.</translation>
    </message>
    <message>
        <source>{} too {}; {} would have been right.</source>
        <translation>{} zu {}; {} wäre richtig gewesen.</translation>
    </message>
    <message>
        <source>{} views</source>
        <translation>{} Motive</translation>
    </message>
    <message>
        <source>{} views at your pace: {} on site</source>
        <translation>{} Motive in Ihrem Tempo: {} vor Ort</translation>
    </message>
    <message>
        <source>{} x {} pixels</source>
        <translation>{} x {} Pixel</translation>
    </message>
    <message>
        <source>{} {} the light from EV {:.1f} to EV {:.1f} with {} of room in the shadows and {} in the highlights.</source>
        <translation>{} {} das Licht von EV {:.1Lf} bis EV {:.1Lf} mit {} Reserve in den Schatten und {} in den Lichtern.</translation>
    </message>
    <message>
        <source>{} {}: leave it out; the rest still cover the scene.</source>
        <translation>{} {}: weglassen; die übrigen fassen die Szene noch.</translation>
    </message>
    <message>
        <source>{} {}: shoot it again.</source>
        <translation>{} {}: noch einmal aufnehmen.</translation>
    </message>
    <message>
        <source>{}, automatic ISO off</source>
        <translation>{}, ISO-Automatik aus</translation>
    </message>
    <message>
        <source>{}, manual</source>
        <translation>{}, manuell</translation>
    </message>
    <message>
        <source>{}, measured</source>
        <translation>{}, gemessen</translation>
    </message>
    <message>
        <source>{}, more than any camera explains: check that they belong together and type their times, or combine them even so.</source>
        <translation>{}, mehr, als irgendeine Kamera erklärt: prüfen, ob sie zusammengehören, und ihre Zeiten eingeben oder sie trotzdem vereinen.</translation>
    </message>
    <message>
        <source>{}, {}. A set takes {:.1f} minutes.</source>
        <translation>{}, {}. Ein Satz dauert {:.1Lf} Minuten.</translation>
    </message>
    <message>
        <source>{}, {}; the shadows shall have a signal {:.0f} times their noise.</source>
        <translation>{}, {}; in den Schatten soll das Signal {:.0Lf}-mal das Rauschen sein.</translation>
    </message>
    <message>
        <source>{}. Costs: {}</source>
        <translation>{}. Kostet: {}</translation>
    </message>
    <message>
        <source>{}: {:.1f} minutes each, your own pace of {} views</source>
        <translation>{}: je {:.1Lf} Minuten, Ihr eigenes Tempo aus {} Motiven</translation>
    </message>
    <message>
        <source>{}: {:g} minutes each, a usual figure</source>
        <translation>{}: je {:Lg} Minuten, eine übliche Zahl</translation>
    </message>
    <message>
        <source>{}: {} at {}, {} {} {}.</source>
        <translation>{}: {} um {}, {} {} {}.</translation>
    </message>
    <message>
        <source>{}: {} should be {}. {}</source>
        <translation>{}: {} sollte {} sein. {}</translation>
    </message>
    <message>
        <source>{}; both are as true.</source>
        <translation>{}; beide sind gleich wahr.</translation>
    </message>
    <message>
        <source>{}; check their times.</source>
        <translation>{}; ihre Zeiten prüfen.</translation>
    </message>
    <message>
        <source>{}; it was not judged.</source>
        <translation>{}; es wurde nicht beurteilt.</translation>
    </message>
</context>
</TS>
