<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="de_DE" sourcelanguage="en">
<context>
    <name>QObject</name>
    <message numerus="yes">
        <source>hide %n item(s)</source>
        <translation>
            <numerusform>%n Element verbergen</numerusform>
            <numerusform>%n Elemente verbergen</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>make %n item(s) translucent</source>
        <translation>
            <numerusform>%n Element durchscheinend zeigen</numerusform>
            <numerusform>%n Elemente durchscheinend zeigen</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>show %n item(s)</source>
        <translation>
            <numerusform>%n Element zeigen</numerusform>
            <numerusform>%n Elemente zeigen</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>show only %n item(s)</source>
        <translation>
            <numerusform>nur %n Element zeigen</numerusform>
            <numerusform>nur %n Elemente zeigen</numerusform>
        </translation>
    </message>
    <message>
        <source>show everything</source>
        <translation>alles zeigen</translation>
    </message>
    <message>
        <source>sketch %1</source>
        <translation>Skizze %1</translation>
    </message>
    <message>
        <source>measured</source>
        <translation>gemessen</translation>
    </message>
    <message>
        <source>reading ± U</source>
        <translation>Ablesung ± U</translation>
    </message>
    <message>
        <source>intent</source>
        <translation>Absicht</translation>
    </message>
    <message>
        <source>evidence</source>
        <translation>Befund</translation>
    </message>
    <message>
        <source>reason</source>
        <translation>Grund</translation>
    </message>
    <message>
        <source>rename</source>
        <translation>umbenennen</translation>
    </message>
    <message>
        <source>no evidence</source>
        <translation>kein Befund</translation>
    </message>
    <message>
        <source>, agrees with the scan</source>
        <translation>, stimmt mit dem Scan überein</translation>
    </message>
    <message>
        <source>, differs from the scan by more than both U</source>
        <translation>, weicht um mehr als beide U vom Scan ab</translation>
    </message>
    <message>
        <source>draft </source>
        <translation>Schräge </translation>
    </message>
    <message>
        <source>leg </source>
        <translation>Schenkel </translation>
    </message>
    <message>
        <source>new steps here</source>
        <translation>neue Schritte hier</translation>
    </message>
    <message>
        <source>edit step</source>
        <translation>Schritt ändern</translation>
    </message>
    <message>
        <source>Build</source>
        <translation>Aufbau</translation>
    </message>
    <message>
        <source>%1: %2</source>
        <translation>%1: %2</translation>
    </message>
    <message>
        <source>, moved RMS %1, at most %2 %3</source>
        <translation>, bewegt RMS %1, höchstens %2 %3</translation>
    </message>
    <message>
        <source>%1 written and read back, %2 bytes</source>
        <translation>%1 geschrieben und zurückgelesen, %2 Byte</translation>
    </message>
    <message>
        <source>%1 written, %2 bytes</source>
        <translation>%1 geschrieben, %2 Byte</translation>
    </message>
    <message>
        <source> on the Bench or in Evidence; click here to pick again</source>
        <translation> auf der Werkbank oder im Befund; hier klicken, um neu zu wählen</translation>
    </message>
    <message>
        <source>Guide</source>
        <translation>Handbuch</translation>
    </message>
    <message>
        <source>Contents</source>
        <translation>Inhalt</translation>
    </message>
    <message>
        <source>search the guide; Return finds the next place</source>
        <translation>im Handbuch suchen; Eingabe findet die nächste Stelle</translation>
    </message>
    <message>
        <source>Search the guide</source>
        <translation>Im Handbuch suchen</translation>
    </message>
    <message>
        <source>Evidence of %1</source>
        <translation>Befund zu %1</translation>
    </message>
    <message numerus="yes">
        <source>%1 and %n more</source>
        <translation>
            <numerusform>%1 und %n weitere</numerusform>
            <numerusform>%1 und %n weitere</numerusform>
        </translation>
    </message>
    <message>
        <source>Trace</source>
        <translation>Zeichnen</translation>
    </message>
    <message>
        <source>name</source>
        <translation>Name</translation>
    </message>
    <message>
        <source>
decided: %1</source>
        <translation>
festgelegt: %1</translation>
    </message>
    <message>
        <source>guide.md</source>
        <translation>guide_de.md</translation>
    </message>
</context>
<context>
    <name>lostline::app</name>
    <message>
        <source>free-form region</source>
        <translation>Freiformbereich</translation>
    </message>
    <message>
        <source>%1 %2: %3 triangles, %4</source>
        <translation>%1 %2: %3 Dreiecke, %4</translation>
    </message>
    <message>
        <source>
RMS %1, form error %2</source>
        <translation>
RMS %1, Formabweichung %2</translation>
    </message>
    <message>
        <source>
on one surface with region %1</source>
        <translation>
auf einer Fläche mit Bereich %1</translation>
    </message>
    <message>
        <source>
direction of region %1: its own is uncertain by %2°</source>
        <translation>
Richtung von Bereich %1: die eigene ist um %2° unsicher</translation>
    </message>
    <message>
        <source>
locked</source>
        <translation>
gesperrt</translation>
    </message>
    <message>
        <source>free-form</source>
        <translation>Freiform</translation>
    </message>
    <message>
        <source>one %1: with region %2</source>
        <translation>ein %1: mit Bereich %2</translation>
    </message>
    <message>
        <source>in no pattern</source>
        <translation>in keinem Muster</translation>
    </message>
    <message>
        <source>alone</source>
        <translation>allein</translation>
    </message>
    <message>
        <source>Regions</source>
        <translation>Bereiche</translation>
    </message>
    <message>
        <source>No regions yet: Survey finds them</source>
        <translation>Noch keine Bereiche: die Aufnahme findet sie</translation>
    </message>
    <message>
        <source>Fits</source>
        <translation>Ausgleichselemente</translation>
    </message>
    <message>
        <source>%1: RMS %2, form error %3</source>
        <translation>%1: RMS %2, Formabweichung %3</translation>
    </message>
    <message>
        <source>Relations</source>
        <translation>Beziehungen</translation>
    </message>
    <message>
        <source>within noise</source>
        <translation>im Rauschen</translation>
    </message>
    <message>
        <source>disagrees</source>
        <translation>widerspricht</translation>
    </message>
    <message>
        <source>no matter</source>
        <translation>ohne Belang</translation>
    </message>
    <message>
        <source>Datums</source>
        <translation>Bezüge</translation>
    </message>
    <message>
        <source>upon %1</source>
        <translation>auf %1</translation>
    </message>
    <message>
        <source>Sections and sketches</source>
        <translation>Schnitte und Skizzen</translation>
    </message>
    <message>
        <source>clashing</source>
        <translation>widersprüchlich</translation>
    </message>
    <message>
        <source>held</source>
        <translation>bestimmt</translation>
    </message>
    <message>
        <source>loose %1</source>
        <translation>frei %1</translation>
    </message>
    <message>
        <source>Double-click to edit the sketch</source>
        <translation>Doppelklick ändert die Skizze</translation>
    </message>
    <message>
        <source>
steps that rest on it: %1</source>
        <translation>
Schritte, die darauf ruhen: %1</translation>
    </message>
    <message>
        <source>Bodies</source>
        <translation>Körper</translation>
    </message>
    <message>
        <source>Beside the scan worked on; right-click to work on it, join or close it</source>
        <translation>Neben dem bearbeiteten Scan; Rechtsklick: bearbeiten, verbinden oder schließen</translation>
    </message>
    <message>
        <source>no faces</source>
        <translation>keine Flächen</translation>
    </message>
    <message>
        <source> and </source>
        <translation> und </translation>
    </message>
    <message>
        <source>%n step(s) broken: open the first</source>
        <translation>%n Schritt fehlerhaft: den ersten öffnen</translation>
    </message>
    <message>
        <source>%1 % of the scan within ±%2: see where the model departs</source>
        <translation>%1 % des Scans innerhalb ±%2: ansehen, wo das Modell abweicht</translation>
    </message>
    <message>
        <source>%n row(s) in pencil: ink what is certain</source>
        <translation>%n Zeile in Blei: Sicheres festlegen</translation>
    </message>
    <message>
        <source>%1 % within ±%2, all inked: hand the model on</source>
        <translation>%1 % innerhalb ±%2, alles festgelegt: Modell weitergeben</translation>
    </message>
    <message>
        <source>All inked: hand the model on</source>
        <translation>Alles festgelegt: Modell weitergeben</translation>
    </message>
    <message>
        <source>Open a scan of the part</source>
        <translation>Einen Scan des Teils öffnen</translation>
    </message>
    <message>
        <source>%1 triangles received: split them into regions</source>
        <translation>%1 Dreiecke eingegangen: in Bereiche teilen</translation>
    </message>
    <message>
        <source>%1 found: choose a datum frame</source>
        <translation>%1 gefunden: Bezugssystem wählen</translation>
    </message>
    <message>
        <source>The frame is set: cut a section</source>
        <translation>Der Bezug steht: einen Schnitt legen</translation>
    </message>
    <message>
        <source>%n sketch(es): make the first body of them</source>
        <translation>%n Skizze: den ersten Körper daraus machen</translation>
    </message>
    <message>
        <source>drawn anew: RMS %1 → %2 · greatest %3 → %4</source>
        <translation>neu gezeichnet: RMS %1 → %2 · größte %3 → %4</translation>
    </message>
    <message>
        <source>The spline follows noise: fewer places would do.</source>
        <translation>Der Spline folgt dem Rauschen: weniger Stellen genügten.</translation>
    </message>
    <message>
        <source>%1 triangles</source>
        <translation>%1 Dreiecke</translation>
    </message>
</context>
<context>
    <name>lostline::app::Autosave</name>
    <message>
        <source>a part</source>
        <translation>ein Teil</translation>
    </message>
    <message>
        <source>Unsaved work could not be copied for safety: %1</source>
        <translation>Ungesicherte Arbeit konnte nicht vorsorglich kopiert werden: %1</translation>
    </message>
</context>
<context>
    <name>lostline::app::BenchView</name>
    <message>
        <source> region %1, %2</source>
        <translation> Bereich %1, %2</translation>
    </message>
    <message>
        <source>scan</source>
        <translation>Scan</translation>
    </message>
    <message>
        <source>  ·  %1 %2</source>
        <translation>  ·  %1 %2</translation>
    </message>
    <message>
        <source>proud</source>
        <translation>Aufmaß</translation>
    </message>
    <message>
        <source>short</source>
        <translation>Untermaß</translation>
    </message>
    <message>
        <source>edge</source>
        <translation>Kante</translation>
    </message>
    <message>
        <source>face %1 of the model</source>
        <translation>Fläche %1 des Modells</translation>
    </message>
    <message>
        <source>face %1</source>
        <translation>Fläche %1</translation>
    </message>
    <message>
        <source>Bench</source>
        <translation>Werkbank</translation>
    </message>
    <message>
        <source>frame none</source>
        <translation>ohne Bezug</translation>
    </message>
    <message>
        <source>frame by model</source>
        <translation>Bezug: Modell</translation>
    </message>
    <message>
        <source>frame 3-2-1</source>
        <translation>Bezug 3-2-1</translation>
    </message>
    <message>
        <source>noise %1</source>
        <translation>σ %1</translation>
    </message>
    <message>
        <source>within ±%1</source>
        <translation>innerhalb ±%1</translation>
    </message>
    <message>
        <source>stopped</source>
        <translation>angehalten</translation>
    </message>
    <message>
        <source>comparing …</source>
        <translation>Vergleich läuft …</translation>
    </message>
    <message>
        <source>no model yet</source>
        <translation>kein Modell</translation>
    </message>
    <message>
        <source>of the model as it was before</source>
        <translation>vom vorherigen Stand des Modells</translation>
    </message>
    <message>
        <source>free-form</source>
        <translation>Freiform</translation>
    </message>
    <message>
        <source>preparing the scan for the Bench</source>
        <translation>der Scan wird für die Werkbank vorbereitet</translation>
    </message>
</context>
<context>
    <name>lostline::app::BodiesTool</name>
    <message>
        <source>Bodies</source>
        <translation>Körper</translation>
    </message>
    <message>
        <source>Build</source>
        <translation>Aufbau</translation>
    </message>
    <message>
        <source>Bodies of the model</source>
        <translation>Körper des Modells</translation>
    </message>
    <message>
        <source>body</source>
        <translation>Körper</translation>
    </message>
    <message>
        <source>kind</source>
        <translation>Art</translation>
    </message>
    <message>
        <source>cm³</source>
        <translation>cm³</translation>
    </message>
    <message>
        <source>Tick a body to show it; double-click its name to change it</source>
        <translation>Haken zeigt den Körper; Doppelklick auf den Namen ändert ihn</translation>
    </message>
    <message>
        <source>colour …</source>
        <translation>Farbe …</translation>
    </message>
    <message>
        <source>A colour of its own, on the Bench and in files</source>
        <translation>Eine eigene Farbe, auf der Werkbank und in Dateien</translation>
    </message>
    <message>
        <source>no colour</source>
        <translation>keine Farbe</translation>
    </message>
    <message>
        <source>The colour of the model again</source>
        <translation>Wieder die Farbe des Modells</translation>
    </message>
    <message>
        <source>show all</source>
        <translation>alle zeigen</translation>
    </message>
    <message>
        <source>Show every body</source>
        <translation>Jeden Körper zeigen</translation>
    </message>
    <message>
        <source>Give every body a name.</source>
        <translation>Jedem Körper einen Namen geben.</translation>
    </message>
    <message>
        <source>bodies</source>
        <translation>Körper</translation>
    </message>
    <message>
        <source>There is no model yet: build a step first.</source>
        <translation>Es gibt noch kein Modell: erst einen Schritt aufbauen.</translation>
    </message>
    <message numerus="yes">
        <source>%n bodies</source>
        <translation>
            <numerusform>%n Körper</numerusform>
            <numerusform>%n Körper</numerusform>
        </translation>
    </message>
    <message>
        <source>Select a body in the list or click it first.</source>
        <translation>Erst einen Körper in der Liste wählen oder anklicken.</translation>
    </message>
    <message>
        <source>Colour of the body</source>
        <translation>Farbe des Körpers</translation>
    </message>
</context>
<context>
    <name>lostline::app::ChamferTool</name>
    <message>
        <source>Chamfer</source>
        <translation>Fase</translation>
    </message>
    <message>
        <source>chamfer %1</source>
        <translation>Fase %1</translation>
    </message>
    <message>
        <source>leg, mm</source>
        <translation>Schenkel, mm</translation>
    </message>
    <message>
        <source>angle, °</source>
        <translation>Winkel, °</translation>
    </message>
    <message>
        <source>Click an edge of the model.</source>
        <translation>Eine Kante des Modells anklicken.</translation>
    </message>
    <message>
        <source>%1 edges</source>
        <translation>%1 Kanten</translation>
    </message>
    <message>
        <source>
scan: leg %1 at %2°</source>
        <translation>
Scan: Schenkel %1 bei %2°</translation>
    </message>
    <message>
        <source>
the scan gives no bevel here</source>
        <translation>
der Scan zeigt hier keine Fase</translation>
    </message>
</context>
<context>
    <name>lostline::app::CleanTool</name>
    <message>
        <source>Clean</source>
        <translation>Säubern</translation>
    </message>
    <message>
        <source>Receive</source>
        <translation>Eingang</translation>
    </message>
    <message>
        <source>box</source>
        <translation>Rahmen</translation>
    </message>
    <message>
        <source>lasso</source>
        <translation>Lasso</translation>
    </message>
    <message>
        <source>brush</source>
        <translation>Pinsel</translation>
    </message>
    <message>
        <source>connected</source>
        <translation>zusammenhängend</translation>
    </message>
    <message>
        <source>same normal</source>
        <translation>gleiche Normale</translation>
    </message>
    <message>
        <source>Drag on the Bench; hold Ctrl to take away from the selection</source>
        <translation>Auf der Werkbank ziehen; mit Strg aus der Auswahl nehmen</translation>
    </message>
    <message>
        <source>select by</source>
        <translation>auswählen mit</translation>
    </message>
    <message>
        <source>also what lies behind</source>
        <translation>auch was dahinter liegt</translation>
    </message>
    <message>
        <source>invert</source>
        <translation>umkehren</translation>
    </message>
    <message>
        <source>Select what is not selected</source>
        <translation>Wählen, was nicht gewählt ist</translation>
    </message>
    <message>
        <source>grow</source>
        <translation>mehr</translation>
    </message>
    <message>
        <source>One ring of triangles more</source>
        <translation>Ein Ring Dreiecke mehr</translation>
    </message>
    <message>
        <source>shrink</source>
        <translation>weniger</translation>
    </message>
    <message>
        <source>One ring of triangles less</source>
        <translation>Ein Ring Dreiecke weniger</translation>
    </message>
    <message>
        <source>none</source>
        <translation>keine</translation>
    </message>
    <message>
        <source>Select nothing</source>
        <translation>Nichts auswählen</translation>
    </message>
    <message>
        <source>delete the selection</source>
        <translation>Auswahl löschen</translation>
    </message>
    <message>
        <source>keep only the selection</source>
        <translation>nur die Auswahl behalten</translation>
    </message>
    <message>
        <source>drop spikes</source>
        <translation>Spitzen entfernen</translation>
    </message>
    <message>
        <source>fill holes flat</source>
        <translation>Löcher eben füllen</translation>
    </message>
    <message>
        <source>fill holes curved</source>
        <translation>Löcher gewölbt füllen</translation>
    </message>
    <message>
        <source>thin evenly</source>
        <translation>gleichmäßig ausdünnen</translation>
    </message>
    <message>
        <source>thin by curvature</source>
        <translation>nach Krümmung ausdünnen</translation>
    </message>
    <message>
        <source>smooth</source>
        <translation>glätten</translation>
    </message>
    <message>
        <source>then</source>
        <translation>dann</translation>
    </message>
    <message>
        <source>Do it  ⏎</source>
        <translation>Ausführen  ⏎</translation>
    </message>
    <message>
        <source>Done  Esc</source>
        <translation>Fertig  Esc</translation>
    </message>
    <message>
        <source>Drag on the scan to select; Ctrl takes away.</source>
        <translation>Zum Auswählen auf dem Scan ziehen; Strg nimmt weg.</translation>
    </message>
    <message>
        <source>Nothing selected: the whole scan is meant.</source>
        <translation>Nichts gewählt: der ganze Scan ist gemeint.</translation>
    </message>
    <message>
        <source>%1 triangles selected</source>
        <translation>%1 Dreiecke gewählt</translation>
    </message>
    <message>
        <source>beyond, σ</source>
        <translation>jenseits, σ</translation>
    </message>
    <message>
        <source>edges, at most</source>
        <translation>Kanten, höchstens</translation>
    </message>
    <message>
        <source>spacing, mm</source>
        <translation>Punktabstand, mm</translation>
    </message>
    <message>
        <source>passes</source>
        <translation>Durchgänge</translation>
    </message>
    <message>
        <source>even edges</source>
        <translation>Kanten gleich lang</translation>
    </message>
    <message>
        <source>mend crossings and folds</source>
        <translation>Durchdringungen und Falten beheben</translation>
    </message>
    <message>
        <source>looking for crossings and folds …</source>
        <translation>Durchdringungen und Falten werden gesucht …</translation>
    </message>
    <message>
        <source>%1 cross, %2 fold, %3 lie double, %4 at edges of three</source>
        <translation>%1 durchdringen, %2 falten, %3 liegen doppelt, %4 an Kanten dreier</translation>
    </message>
</context>
<context>
    <name>lostline::app::CompareTool</name>
    <message>
        <source>Compare</source>
        <translation>Vergleichen</translation>
    </message>
    <message>
        <source>Prove</source>
        <translation>Nachweis</translation>
    </message>
    <message>
        <source>xy plane</source>
        <translation>xy-Ebene</translation>
    </message>
    <message>
        <source>xz plane</source>
        <translation>xz-Ebene</translation>
    </message>
    <message>
        <source>yz plane</source>
        <translation>yz-Ebene</translation>
    </message>
    <message>
        <source>cut by</source>
        <translation>Schnitt durch</translation>
    </message>
    <message>
        <source>Distance from the plane; drag on the Bench or use the arrow keys</source>
        <translation>Abstand von der Ebene; auf der Werkbank ziehen oder Pfeiltasten</translation>
    </message>
    <message>
        <source>offset, mm</source>
        <translation>Abstand, mm</translation>
    </message>
    <message>
        <source>There is no model yet: build a step first.</source>
        <translation>Es gibt noch kein Modell: erst einen Schritt aufbauen.</translation>
    </message>
    <message>
        <source>Scan against model, %1 at %2</source>
        <translation>Scan gegen Modell, %1 bei %2</translation>
    </message>
    <message>
        <source>The plane misses the model.</source>
        <translation>Die Ebene trifft das Modell nicht.</translation>
    </message>
    <message>
        <source>The scan shows nothing near this cut.</source>
        <translation>Der Scan zeigt bei diesem Schnitt nichts.</translation>
    </message>
    <message>
        <source>RMS %1 · mean %2 · greatest %3
%4 % within ±%5; %6 scan points have no model near</source>
        <translation>RMS %1 · Mittel %2 · größte %3
%4 % innerhalb ±%5; %6 Scanpunkte ohne Modell in der Nähe</translation>
    </message>
</context>
<context>
    <name>lostline::app::CurveTool</name>
    <message>
        <source>Curve</source>
        <translation>Kurve</translation>
    </message>
    <message>
        <source>curve %1</source>
        <translation>Kurve %1</translation>
    </message>
    <message>
        <source>places</source>
        <translation>Stellen</translation>
    </message>
    <message>
        <source>border of a region</source>
        <translation>Rand eines Bereichs</translation>
    </message>
    <message>
        <source>middle of a strip</source>
        <translation>Mitte eines Streifens</translation>
    </message>
    <message>
        <source>edge of the model</source>
        <translation>Kante des Modells</translation>
    </message>
    <message>
        <source>crossing of two sketches</source>
        <translation>Schnitt zweier Skizzen</translation>
    </message>
    <message>
        <source>What the curve follows</source>
        <translation>Wonach sich die Kurve richtet</translation>
    </message>
    <message>
        <source>follows</source>
        <translation>folgt</translation>
    </message>
    <message>
        <source>stays on the scan</source>
        <translation>bleibt auf dem Scan</translation>
    </message>
    <message>
        <source>Places are put between where it would leave the scan</source>
        <translation>Wo sie den Scan verließe, werden Stellen dazwischen gesetzt</translation>
    </message>
    <message>
        <source>closed</source>
        <translation>geschlossen</translation>
    </message>
    <message>
        <source>sketch</source>
        <translation>Skizze</translation>
    </message>
    <message>
        <source>and sketch</source>
        <translation>und Skizze</translation>
    </message>
    <message>
        <source>smooth</source>
        <translation>glätten</translation>
    </message>
    <message>
        <source>straight</source>
        <translation>gerade</translation>
    </message>
    <message>
        <source>runs</source>
        <translation>verläuft</translation>
    </message>
    <message>
        <source>How far it may lie from what it follows; 0: what noise and spacing tell</source>
        <translation>Wie weit sie von dem abliegen darf, dem sie folgt; 0: was Rauschen und Punktabstand sagen</translation>
    </message>
    <message>
        <source>within, mm</source>
        <translation>innerhalb, mm</translation>
    </message>
    <message>
        <source>take back</source>
        <translation>zurücknehmen</translation>
    </message>
    <message>
        <source>Take the last place back</source>
        <translation>Die letzte Stelle zurücknehmen</translation>
    </message>
    <message>
        <source>Click a region of the scan.</source>
        <translation>Auf einen Bereich des Scans klicken.</translation>
    </message>
    <message>
        <source>Click an edge of the model.</source>
        <translation>Eine Kante des Modells anklicken.</translation>
    </message>
    <message>
        <source>%1 places</source>
        <translation>%1 Stellen</translation>
    </message>
    <message>
        <source> · RMS %1, at most %2</source>
        <translation> · RMS %1, höchstens %2</translation>
    </message>
    <message>
        <source>
%1 long</source>
        <translation>
%1 lang</translation>
    </message>
    <message>
        <source>Click places on the scan or the model, in order; drag them.</source>
        <translation>Der Reihe nach auf Stellen des Scans oder des Modells klicken; sie lassen sich ziehen.</translation>
    </message>
    <message>
        <source>Click a region near the border that the curve follows.</source>
        <translation>Auf einen Bereich nahe dem Rand klicken, dem die Kurve folgt.</translation>
    </message>
    <message>
        <source>Click a region that is a long strip.</source>
        <translation>Auf einen Bereich klicken, der ein langer Streifen ist.</translation>
    </message>
    <message>
        <source>Choose two sketches on planes that are not parallel.</source>
        <translation>Zwei Skizzen auf Ebenen wählen, die nicht parallel sind.</translation>
    </message>
</context>
<context>
    <name>lostline::app::DescribedTool</name>
    <message>
        <source>click %1 of the model</source>
        <translation>%1 des Modells anklicken</translation>
    </message>
    <message>
        <source>none; click %1</source>
        <translation>keine; %1 anklicken</translation>
    </message>
    <message>
        <source>Click a flat or turned face, a region or a fit.</source>
        <translation>Eine ebene oder runde Fläche, einen Bereich oder ein Ausgleichselement anklicken.</translation>
    </message>
    <message>
        <source>Click a body of the model.</source>
        <translation>Einen Körper des Modells anklicken.</translation>
    </message>
    <message>
        <source>Click a face of the model.</source>
        <translation>Eine Fläche des Modells anklicken.</translation>
    </message>
    <message>
        <source>Click an edge of the model.</source>
        <translation>Eine Kante des Modells anklicken.</translation>
    </message>
    <message>
        <source>1 %1</source>
        <translation>1 %1</translation>
    </message>
    <message>
        <source>reading %1 …</source>
        <translation>%1 wird gelesen …</translation>
    </message>
    <message>
        <source>Now say the %1.</source>
        <translation>Jetzt angeben: %1.</translation>
    </message>
    <message>
        <source>Click %1 of the model.</source>
        <translation>%1 des Modells anklicken.</translation>
    </message>
    <message>
        <source>Choose the file of the model: %1.</source>
        <translation>Die Datei des Modells wählen: %1.</translation>
    </message>
    <message>
        <source>%1 cm³ after this step</source>
        <translation>%1 cm³ nach diesem Schritt</translation>
    </message>
    <message>
        <source>
scan: %1 %2</source>
        <translation>
Scan: %1 %2</translation>
    </message>
    <message>
        <source>Tick the sketches first, then click the outline in the first of them.</source>
        <translation>Erst die Skizzen ankreuzen, dann den Umriss in der ersten davon anklicken.</translation>
    </message>
</context>
<context>
    <name>lostline::app::DescribedTool::Builder</name>
    <message>
        <source>⌀</source>
        <translation>⌀</translation>
    </message>
    <message>
        <source>R</source>
        <translation>R</translation>
    </message>
    <message>
        <source>edges</source>
        <translation>Kanten</translation>
    </message>
    <message>
        <source>edge</source>
        <translation>Kante</translation>
    </message>
    <message>
        <source>faces</source>
        <translation>Flächen</translation>
    </message>
    <message>
        <source>face</source>
        <translation>Fläche</translation>
    </message>
    <message>
        <source>bodies</source>
        <translation>Körper</translation>
    </message>
    <message>
        <source>body</source>
        <translation>Körper</translation>
    </message>
    <message>
        <source>file of the model</source>
        <translation>Datei des Modells</translation>
    </message>
    <message>
        <source>choose …</source>
        <translation>wählen …</translation>
    </message>
    <message>
        <source>Model to import</source>
        <translation>Modell zum Einlesen</translation>
    </message>
    <message>
        <source>Models</source>
        <translation>Modelle</translation>
    </message>
    <message>
        <source>Click here, then on the model; a second click takes back</source>
        <translation>Hier klicken, dann auf das Modell; ein zweiter Klick nimmt zurück</translation>
    </message>
    <message>
        <source>Tick the sketches; drag them into their order</source>
        <translation>Die Skizzen ankreuzen und in ihre Reihenfolge ziehen</translation>
    </message>
    <message>
        <source>Tick the sketch</source>
        <translation>Die Skizze ankreuzen</translation>
    </message>
    <message>
        <source>an outline</source>
        <translation>einen Umriss</translation>
    </message>
    <message>
        <source>outline</source>
        <translation>Umriss</translation>
    </message>
</context>
<context>
    <name>lostline::app::Desk</name>
    <message>
        <source>%1 was closed: what it worked on is gone. Redo brings it back.</source>
        <translation>%1 wurde geschlossen: woran gearbeitet wurde, ist fort. Wiederholen bringt es zurück.</translation>
    </message>
</context>
<context>
    <name>lostline::app::DeviationTool</name>
    <message>
        <source>Deviation</source>
        <translation>Abweichung</translation>
    </message>
    <message>
        <source>Prove</source>
        <translation>Nachweis</translation>
    </message>
    <message>
        <source>tolerance ±, mm</source>
        <translation>Toleranz ±, mm</translation>
    </message>
    <message>
        <source>scale ends ±, mm</source>
        <translation>Skala endet ±, mm</translation>
    </message>
    <message>
        <source>Worst places and faces</source>
        <translation>Schlechteste Stellen und Flächen</translation>
    </message>
    <message>
        <source>Click a place to go there; click a face to see it and give it a tolerance of its own</source>
        <translation>Eine Stelle anklicken, um hinzugehen; eine Fläche anklicken, um sie zu sehen und ihr eine eigene Toleranz zu geben</translation>
    </message>
    <message>
        <source>of this face ±, mm</source>
        <translation>dieser Fläche ±, mm</translation>
    </message>
    <message>
        <source>tolerance of a face</source>
        <translation>Toleranz einer Fläche</translation>
    </message>
    <message>
        <source>no model near</source>
        <translation>kein Modell in der Nähe</translation>
    </message>
    <message>
        <source>The ends of the scale must lie beyond the tolerance.</source>
        <translation>Die Enden der Skala müssen jenseits der Toleranz liegen.</translation>
    </message>
    <message>
        <source>tolerance ±%1</source>
        <translation>Toleranz ±%1</translation>
    </message>
    <message>
        <source>There is no model yet: build a step first.</source>
        <translation>Es gibt noch kein Modell: erst einen Schritt aufbauen.</translation>
    </message>
    <message>
        <source>comparing …</source>
        <translation>Vergleich läuft …</translation>
    </message>
    <message>
        <source>RMS %1 · %2 % within ±%3
%4 points; %5 more lie further than %8 from the model and are left out
most proud %6, most short %7</source>
        <translation>RMS %1 · %2 % innerhalb ±%3
%4 Punkte; %5 weitere liegen mehr als %8 vom Modell entfernt und zählen nicht
größtes Aufmaß %6, größtes Untermaß %7</translation>
    </message>
    <message>
        <source>worst places, mm</source>
        <translation>schlechteste Stellen, mm</translation>
    </message>
    <message>
        <source>faces, % within</source>
        <translation>Flächen, % innerhalb</translation>
    </message>
    <message>
        <source>RMS %1, mean %2, most proud %3, most short %4, %5 points, tolerance ±%6</source>
        <translation>RMS %1, Mittel %2, größtes Aufmaß %3, größtes Untermaß %4, %5 Punkte, Toleranz ±%6</translation>
    </message>
</context>
<context>
    <name>lostline::app::EdgeTool</name>
    <message>
        <source>Click an edge of the model, or a face for all of its.</source>
        <translation>Auf eine Kante des Modells klicken oder auf eine Fläche für alle ihre Kanten.</translation>
    </message>
</context>
<context>
    <name>lostline::app::EvidencePanel</name>
    <message>
        <source>Evidence</source>
        <translation>Befund</translation>
    </message>
    <message>
        <source>narrow</source>
        <translation>eingrenzen</translation>
    </message>
    <message>
        <source>Narrow the evidence</source>
        <translation>Befund eingrenzen</translation>
    </message>
    <message>
        <source>Rows with all these words: “plane machined”, “13.5”</source>
        <translation>Zeilen mit allen diesen Wörtern: „Ebene bearbeitet“, „13.5“</translation>
    </message>
    <message>
        <source>Group regions</source>
        <translation>Bereiche gruppieren</translation>
    </message>
    <message>
        <source>How the regions are grouped</source>
        <translation>Wie die Bereiche gruppiert sind</translation>
    </message>
    <message>
        <source>by kind</source>
        <translation>nach Art</translation>
    </message>
    <message>
        <source>by surface</source>
        <translation>nach Fläche</translation>
    </message>
    <message>
        <source>by pattern</source>
        <translation>nach Muster</translation>
    </message>
    <message>
        <source>only what suits the input · show all</source>
        <translation>nur Passendes · alles zeigen</translation>
    </message>
    <message>
        <source>Show all evidence again</source>
        <translation>Wieder den ganzen Befund zeigen</translation>
    </message>
    <message>
        <source>The card waits for a pick: only regions and fits that it takes are listed</source>
        <translation>Die Karte wartet auf eine Auswahl: nur passende Bereiche und Ausgleichselemente stehen hier</translation>
    </message>
    <message>
        <source>what</source>
        <translation>was</translation>
    </message>
    <message>
        <source>size</source>
        <translation>Größe</translation>
    </message>
    <message>
        <source>form</source>
        <translation>Form</translation>
    </message>
    <message>
        <source>state</source>
        <translation>Zustand</translation>
    </message>
    <message>
        <source>area</source>
        <translation>Fläche</translation>
    </message>
    <message>
        <source>Form error</source>
        <translation>Formabweichung</translation>
    </message>
    <message>
        <source>Scans, regions, fits and sections will be listed here. Open a scan to begin.</source>
        <translation>Scans, Bereiche, Ausgleichselemente und Schnitte stehen hier. Zu Beginn einen Scan öffnen.</translation>
    </message>
    <message>
        <source>Rename</source>
        <translation>Umbenennen</translation>
    </message>
    <message>
        <source>Remove</source>
        <translation>Entfernen</translation>
    </message>
    <message>
        <source>hidden</source>
        <translation>verborgen</translation>
    </message>
    <message>
        <source>rename %1</source>
        <translation>%1 umbenennen</translation>
    </message>
    <message>
        <source>remove %1</source>
        <translation>%1 entfernen</translation>
    </message>
    <message>
        <source>removed %1</source>
        <translation>%1 entfernt</translation>
    </message>
    <message>
        <source>Rename	F2</source>
        <translation>Umbenennen	F2</translation>
    </message>
    <message>
        <source>Remove	Del</source>
        <translation>Entfernen	Entf</translation>
    </message>
    <message>
        <source>Work on %1</source>
        <translation>%1 bearbeiten</translation>
    </message>
    <message>
        <source>work on %1</source>
        <translation>%1 bearbeiten</translation>
    </message>
    <message>
        <source>Join %1 to the scan worked on</source>
        <translation>%1 mit dem bearbeiteten Scan verbinden</translation>
    </message>
    <message>
        <source>join %1</source>
        <translation>%1 verbinden</translation>
    </message>
    <message>
        <source>In the order of work</source>
        <translation>In der Reihenfolge der Arbeit</translation>
    </message>
    <message>
        <source>translucent</source>
        <translation>durchscheinend</translation>
    </message>
</context>
<context>
    <name>lostline::app::ExtrudeTool</name>
    <message>
        <source>Cut</source>
        <translation>Ausschnitt</translation>
    </message>
    <message>
        <source>Extrude</source>
        <translation>Extrusion</translation>
    </message>
    <message>
        <source>body %1</source>
        <translation>Körper %1</translation>
    </message>
    <message>
        <source>add</source>
        <translation>hinzufügen</translation>
    </message>
    <message>
        <source>cut</source>
        <translation>abziehen</translation>
    </message>
    <message>
        <source>keep in common</source>
        <translation>Gemeinsames behalten</translation>
    </message>
    <message>
        <source>new body</source>
        <translation>neuer Körper</translation>
    </message>
    <message>
        <source>material</source>
        <translation>Werkstoff</translation>
    </message>
    <message>
        <source>from level to level</source>
        <translation>von Höhe zu Höhe</translation>
    </message>
    <message>
        <source>even about a middle</source>
        <translation>gleichmäßig um eine Mitte</translation>
    </message>
    <message>
        <source>up to a surface</source>
        <translation>bis zu einer Fläche</translation>
    </message>
    <message>
        <source>through</source>
        <translation>durch alles</translation>
    </message>
    <message>
        <source>reach</source>
        <translation>Reichweite</translation>
    </message>
    <message>
        <source>from, mm</source>
        <translation>von, mm</translation>
    </message>
    <message>
        <source>to, mm</source>
        <translation>bis, mm</translation>
    </message>
    <message>
        <source>middle, mm</source>
        <translation>Mitte, mm</translation>
    </message>
    <message>
        <source>thickness, mm</source>
        <translation>Dicke, mm</translation>
    </message>
    <message>
        <source>up to</source>
        <translation>bis zu</translation>
    </message>
    <message>
        <source>draft, °</source>
        <translation>Schräge, °</translation>
    </message>
    <message>
        <source>There is no sketch yet. Take a section in Trace first.</source>
        <translation>Es gibt noch keine Skizze. Erst unter Zeichnen einen Schnitt legen.</translation>
    </message>
    <message>
        <source>Click an outline of the sketch, or inside an area.</source>
        <translation>Einen Umriss der Skizze oder in eine Fläche klicken.</translation>
    </message>
    <message>
        <source>Now click the surface it runs up to.</source>
        <translation>Jetzt die Fläche anklicken, bis zu der er reicht.</translation>
    </message>
    <message>
        <source>%1 cm³ after this step</source>
        <translation>%1 cm³ nach diesem Schritt</translation>
    </message>
    <message>
        <source>
scan below: %1</source>
        <translation>
Scan darunter: %1</translation>
    </message>
    <message>
        <source>
no scan level below</source>
        <translation>
keine Höhe des Scans darunter</translation>
    </message>
    <message>
        <source>
scan above: %1</source>
        <translation>
Scan darüber: %1</translation>
    </message>
    <message>
        <source>
no scan level above</source>
        <translation>
keine Höhe des Scans darüber</translation>
    </message>
    <message>
        <source>
taper of the scan: %1°</source>
        <translation>
Schräge des Scans: %1°</translation>
    </message>
    <message>
        <source>By which the profile turns on its way, about the axis below</source>
        <translation>Um so viel dreht sich das Profil auf seinem Weg, um die Achse darunter</translation>
    </message>
    <message>
        <source>twist, °</source>
        <translation>Verdrehung, °</translation>
    </message>
    <message>
        <source>about</source>
        <translation>um</translation>
    </message>
    <message>
        <source>read the twist</source>
        <translation>Verdrehung ablesen</translation>
    </message>
    <message>
        <source>The scan&apos;s walls tell how the profile turns, and by how much</source>
        <translation>Die Wände des Scans sagen, wie sich das Profil dreht und um wie viel</translation>
    </message>
    <message>
        <source>A twist is read between two levels.</source>
        <translation>Eine Verdrehung wird zwischen zwei Höhen abgelesen.</translation>
    </message>
    <message>
        <source>following the walls …</source>
        <translation>folgt den Wänden …</translation>
    </message>
    <message>
        <source>The scan&apos;s walls tell no even twist about this axis.</source>
        <translation>Die Wände des Scans zeigen keine gleichmäßige Verdrehung um diese Achse.</translation>
    </message>
    <message>
        <source>
twist of the scan: %1°</source>
        <translation>
Verdrehung des Scans: %1°</translation>
    </message>
</context>
<context>
    <name>lostline::app::FeatureTool</name>
    <message>
        <source>Feature</source>
        <translation>Bezugselement</translation>
    </message>
    <message>
        <source>Datum</source>
        <translation>Bezug</translation>
    </message>
    <message>
        <source>feature</source>
        <translation>Element</translation>
    </message>
    <message>
        <source>pick regions or fits</source>
        <translation>Elemente wählen</translation>
    </message>
    <message>
        <source>parts</source>
        <translation>Teile</translation>
    </message>
    <message>
        <source>from</source>
        <translation>aus</translation>
    </message>
    <message>
        <source>found</source>
        <translation>gefunden</translation>
    </message>
    <message>
        <source>symmetry plane</source>
        <translation>Symmetrieebene</translation>
    </message>
    <message>
        <source>construct %1</source>
        <translation>%1 bilden</translation>
    </message>
    <message>
        <source>Click two planes.</source>
        <translation>Zwei Ebenen anklicken.</translation>
    </message>
    <message>
        <source>Click two holes, circles or points; a plane third.</source>
        <translation>Zwei Bohrungen, Kreise oder Punkte anklicken; als drittes eine Ebene.</translation>
    </message>
    <message>
        <source>Click the holes that share an axis.</source>
        <translation>Die Bohrungen mit gemeinsamer Achse anklicken.</translation>
    </message>
    <message>
        <source>Click the holes of the circle.</source>
        <translation>Die Bohrungen des Lochkreises anklicken.</translation>
    </message>
    <message>
        <source>Click three planes, a plane and an axis, or two axes.</source>
        <translation>Drei Ebenen, eine Ebene und eine Achse oder zwei Achsen anklicken.</translation>
    </message>
    <message>
        <source>%1 at %2, %3, %4</source>
        <translation>%1 bei %2, %3, %4</translation>
    </message>
    <message>
        <source>
⌀ %1</source>
        <translation>
⌀ %1</translation>
    </message>
    <message>
        <source>
place ± %1</source>
        <translation>
Ort ± %1</translation>
    </message>
    <message>
        <source>, direction ± %1°</source>
        <translation>, Richtung ± %1°</translation>
    </message>
    <message>
        <source>
parts depart by %1</source>
        <translation>
Teile weichen um %1 ab</translation>
    </message>
    <message>
        <source>Mirroring the scan upon itself …</source>
        <translation>Der Scan wird auf sich selbst gespiegelt …</translation>
    </message>
    <message>
        <source>%1 % mirrored, RMS %2</source>
        <translation>%1 % gespiegelt, RMS %2</translation>
    </message>
</context>
<context>
    <name>lostline::app::FilletTool</name>
    <message>
        <source>Fillet</source>
        <translation>Verrundung</translation>
    </message>
    <message>
        <source>fillet %1</source>
        <translation>Verrundung %1</translation>
    </message>
    <message>
        <source>R, mm</source>
        <translation>R, mm</translation>
    </message>
    <message>
        <source>Click an edge of the model.</source>
        <translation>Eine Kante des Modells anklicken.</translation>
    </message>
    <message>
        <source>%1 edges</source>
        <translation>%1 Kanten</translation>
    </message>
    <message>
        <source>
scan: R %1</source>
        <translation>
Scan: R %1</translation>
    </message>
    <message>
        <source>
the scan gives no radius here</source>
        <translation>
der Scan zeigt hier keinen Radius</translation>
    </message>
    <message>
        <source>Radius at the other end of each chain of edges; 0: the same</source>
        <translation>Radius am anderen Ende jeder Kantenkette; 0: derselbe</translation>
    </message>
    <message>
        <source>to R, mm</source>
        <translation>bis R, mm</translation>
    </message>
    <message>
        <source>from the other end</source>
        <translation>vom anderen Ende</translation>
    </message>
</context>
<context>
    <name>lostline::app::FitTool</name>
    <message>
        <source>Fit</source>
        <translation>Ausgleich</translation>
    </message>
    <message>
        <source>Survey</source>
        <translation>Aufnahme</translation>
    </message>
    <message>
        <source>the clicked region</source>
        <translation>der angeklickte Bereich</translation>
    </message>
    <message>
        <source>grown over similar normals</source>
        <translation>über ähnliche Normalen gewachsen</translation>
    </message>
    <message>
        <source>the rim nearest the click</source>
        <translation>der Rand beim Klick</translation>
    </message>
    <message>
        <source>clicked points</source>
        <translation>angeklickte Punkte</translation>
    </message>
    <message>
        <source>evidence</source>
        <translation>Befund</translation>
    </message>
    <message>
        <source>How far neighbouring normals may differ; the selection follows at once</source>
        <translation>Wie weit benachbarte Normalen abweichen dürfen; die Auswahl folgt sofort</translation>
    </message>
    <message>
        <source>angle</source>
        <translation>Winkel</translation>
    </message>
    <message>
        <source>plane</source>
        <translation>Ebene</translation>
    </message>
    <message>
        <source>cylinder</source>
        <translation>Zylinder</translation>
    </message>
    <message>
        <source>cone</source>
        <translation>Kegel</translation>
    </message>
    <message>
        <source>sphere</source>
        <translation>Kugel</translation>
    </message>
    <message>
        <source>torus</source>
        <translation>Torus</translation>
    </message>
    <message>
        <source>line</source>
        <translation>Gerade</translation>
    </message>
    <message>
        <source>circle</source>
        <translation>Kreis</translation>
    </message>
    <message>
        <source>ellipse</source>
        <translation>Ellipse</translation>
    </message>
    <message>
        <source>geometry</source>
        <translation>Geometrie</translation>
    </message>
    <message>
        <source>free</source>
        <translation>frei</translation>
    </message>
    <message>
        <source>held</source>
        <translation>bestimmt</translation>
    </message>
    <message>
        <source>pick a fit</source>
        <translation>ein Ausgleichselement wählen</translation>
    </message>
    <message>
        <source>other fit</source>
        <translation>anderes Element</translation>
    </message>
    <message>
        <source>of</source>
        <translation>von</translation>
    </message>
    <message>
        <source>value</source>
        <translation>Wert</translation>
    </message>
    <message>
        <source>Click the scan where the surface is.</source>
        <translation>Den Scan dort anklicken, wo die Fläche ist.</translation>
    </message>
    <message>
        <source>fit %1</source>
        <translation>Ausgleich %1</translation>
    </message>
    <message>
        <source>value, °</source>
        <translation>Wert, °</translation>
    </message>
    <message>
        <source>value, mm</source>
        <translation>Wert, mm</translation>
    </message>
    <message>
        <source>Pick the fit that gives the relation.</source>
        <translation>Das Element wählen, das die Beziehung gibt.</translation>
    </message>
    <message>
        <source>Click points on the scan, one after the other.</source>
        <translation>Punkte auf dem Scan anklicken, einen nach dem andern.</translation>
    </message>
    <message>
        <source>RMS %1 · form error %2 · %3 of %4 points</source>
        <translation>RMS %1 · Formabweichung %2 · %3 von %4 Punkten</translation>
    </message>
    <message>
        <source>
direction ± %1°, place ± %2</source>
        <translation>
Richtung ± %1°, Ort ± %2</translation>
    </message>
    <message>
        <source>
not settled: after %1 rounds other points were still left out each time</source>
        <translation>
nicht zur Ruhe gekommen: nach %1 Runden fielen immer noch andere Punkte heraus</translation>
    </message>
    <message>
        <source>
weighted by trust: rough regions count less</source>
        <translation>
nach Güte gewichtet: raue Bereiche zählen weniger</translation>
    </message>
</context>
<context>
    <name>lostline::app::FrameTool</name>
    <message>
        <source>Frame</source>
        <translation>Bezugssystem</translation>
    </message>
    <message>
        <source>Datum</source>
        <translation>Bezug</translation>
    </message>
    <message>
        <source>pick a plane or axis</source>
        <translation>Ebene oder Achse</translation>
    </message>
    <message>
        <source>primary</source>
        <translation>primär</translation>
    </message>
    <message>
        <source>A primary</source>
        <translation>A primär</translation>
    </message>
    <message>
        <source>primary axis</source>
        <translation>Achse primär</translation>
    </message>
    <message>
        <source>What the outward normal or the axis of the primary becomes</source>
        <translation>Was die äußere Normale oder die Achse des Primärbezugs wird</translation>
    </message>
    <message>
        <source>becomes</source>
        <translation>wird</translation>
    </message>
    <message>
        <source>pick a plane, or two axes</source>
        <translation>Ebene oder zwei Achsen</translation>
    </message>
    <message>
        <source>secondary</source>
        <translation>sekundär</translation>
    </message>
    <message>
        <source>B secondary</source>
        <translation>B sekundär</translation>
    </message>
    <message>
        <source>secondary axis</source>
        <translation>Achse sekundär</translation>
    </message>
    <message>
        <source>pick an axis or planes</source>
        <translation>Achse oder Ebenen</translation>
    </message>
    <message>
        <source>origin</source>
        <translation>Ursprung</translation>
    </message>
    <message>
        <source>C origin</source>
        <translation>C Ursprung</translation>
    </message>
    <message>
        <source>the rest by the scan&apos;s extremes</source>
        <translation>Rest aus den Scangrenzen</translation>
    </message>
    <message>
        <source>What the origin fits leave open is put at the least coordinate</source>
        <translation>Was der Ursprung offen lässt, wird auf die kleinste Koordinate gelegt</translation>
    </message>
    <message>
        <source>propose</source>
        <translation>vorschlagen</translation>
    </message>
    <message>
        <source>Fill in a datum system from machined faces; again: the next best</source>
        <translation>Ein Bezugssystem aus bearbeiteten Flächen eintragen; noch einmal: das nächstbeste</translation>
    </message>
    <message>
        <source>show as it was</source>
        <translation>zeigen, wie es war</translation>
    </message>
    <message>
        <source>Before and after: show the scan where it lay</source>
        <translation>Vorher und nachher: den Scan zeigen, wo er lag</translation>
    </message>
    <message>
        <source>set frame</source>
        <translation>Bezug setzen</translation>
    </message>
    <message>
        <source>The survey has no face and no axis that a frame could rest on.</source>
        <translation>Die Aufnahme hat keine Fläche und keine Achse, auf der ein Bezug ruhen könnte.</translation>
    </message>
    <message>
        <source>Click the face that the part stands on.</source>
        <translation>Die Fläche anklicken, auf der das Teil steht.</translation>
    </message>
    <message>
        <source>Now what fixes the turn about it: a side face, or two hole walls.</source>
        <translation>Jetzt, was die Drehung darum festlegt: eine Seitenfläche oder zwei Bohrungswände.</translation>
    </message>
    <message>
        <source>Turn held by %1, then %2; origin by %3. Preview shown.</source>
        <translation>Drehung gehalten durch %1, dann %2; Ursprung durch %3. Vorschau.</translation>
    </message>
</context>
<context>
    <name>lostline::app::FreeBodyTool</name>
    <message>
        <source>Free body</source>
        <translation>Freiformkörper</translation>
    </message>
    <message>
        <source>free body %1</source>
        <translation>Freiformkörper %1</translation>
    </message>
    <message>
        <source>fit</source>
        <translation>einpassen</translation>
    </message>
    <message>
        <source>Fit patches to the whole scan with these numbers</source>
        <translation>Flächenstücke mit diesen Zahlen in den ganzen Scan einpassen</translation>
    </message>
    <message>
        <source>About so many; 0: as few as do</source>
        <translation>Ungefähr so viele; 0: so wenige wie genügen</translation>
    </message>
    <message>
        <source>patches</source>
        <translation>Flächenstücke</translation>
    </message>
    <message>
        <source>95 % of the points lie nearer than this; 0: as the noise asks</source>
        <translation>95 % der Punkte liegen näher; 0: wie das Rauschen es verlangt</translation>
    </message>
    <message>
        <source>tolerance, mm</source>
        <translation>Toleranz, mm</translation>
    </message>
    <message>
        <source>Of each side of each patch; 0: by the tolerance</source>
        <translation>Jeder Seite jedes Stücks; 0: nach der Toleranz</translation>
    </message>
    <message>
        <source>spans</source>
        <translation>Felder</translation>
    </message>
    <message>
        <source>Larger is stiffer: each step counts tenfold</source>
        <translation>Größer ist steifer: jede Stufe zählt zehnfach</translation>
    </message>
    <message>
        <source>stiffer</source>
        <translation>steifer</translation>
    </message>
    <message>
        <source>fitting the patches …</source>
        <translation>Flächenstücke werden eingepasst …</translation>
    </message>
    <message>
        <source>%1 patches of %2 × %3 poles</source>
        <translation>%1 Flächenstücke mit %2 × %3 Polen</translation>
    </message>
    <message>
        <source>RMS %1 · 95 % within %2 · greatest %3</source>
        <translation>RMS %1 · 95 % innerhalb %2 · größte %3</translation>
    </message>
    <message>
        <source>patches meet within %1°</source>
        <translation>Stücke treffen sich innerhalb %1°</translation>
    </message>
    <message>
        <source>The tolerance is not met.</source>
        <translation>Die Toleranz ist nicht erreicht.</translation>
    </message>
</context>
<context>
    <name>lostline::app::GlCanvas</name>
    <message>
        <source>Nothing can be drawn here: this computer offers no OpenGL 3.3. Install its graphics driver, or libgl1-mesa-dri to draw without one.</source>
        <translation>Hier lässt sich nichts zeichnen: Dieser Rechner bietet kein OpenGL 3.3. Installieren Sie seinen Grafiktreiber, oder libgl1-mesa-dri, um ohne ihn zu zeichnen.</translation>
    </message>
</context>
<context>
    <name>lostline::app::HandOnTool</name>
    <message>
        <source>Hand on</source>
        <translation>Weitergabe</translation>
    </message>
    <message>
        <source>Release</source>
        <translation>Freigabe</translation>
    </message>
    <message>
        <source>what</source>
        <translation>was</translation>
    </message>
    <message>
        <source>file</source>
        <translation>Datei</translation>
    </message>
    <message>
        <source>Write  ⏎</source>
        <translation>Schreiben  ⏎</translation>
    </message>
    <message>
        <source>choose …</source>
        <translation>wählen …</translation>
    </message>
    <message>
        <source>The Route was stopped, so the model is older than its values. Recompute it (F5) first.</source>
        <translation>Der Arbeitsplan wurde angehalten, das Modell ist älter als seine Werte. Erst neu berechnen (F5).</translation>
    </message>
    <message>
        <source>Write over it  ⏎</source>
        <translation>Überschreiben  ⏎</translation>
    </message>
    <message>
        <source>%1 exists. Write over it, or change the name.</source>
        <translation>%1 gibt es schon. Überschreiben oder den Namen ändern.</translation>
    </message>
    <message>
        <source>writing %1</source>
        <translation>%1 wird geschrieben</translation>
    </message>
    <message>
        <source>model</source>
        <translation>Modell</translation>
    </message>
    <message>
        <source>scan with deviation, 3MF</source>
        <translation>Scan mit Abweichung, 3MF</translation>
    </message>
    <message>
        <source>Ledger</source>
        <translation>Maßbuch</translation>
    </message>
    <message>
        <source>report</source>
        <translation>Bericht</translation>
    </message>
    <message>
        <source>sketch %1</source>
        <translation>Skizze %1</translation>
    </message>
    <message>
        <source>The model as it stands: %1 cm³.</source>
        <translation>Das Modell, wie es ist: %1 cm³.</translation>
    </message>
    <message>
        <source>
%1 dimensions are still in pencil.</source>
        <translation>
%1 Maße stehen noch in Blei.</translation>
    </message>
    <message>
        <source>
%1 steps are broken and not in it.</source>
        <translation>
%1 Schritte sind fehlerhaft und nicht darin.</translation>
    </message>
    <message>
        <source>all sketches and curves</source>
        <translation>alle Skizzen und Kurven</translation>
    </message>
    <message>
        <source>curves, datum and fits</source>
        <translation>Kurven, Bezug und Einpassungen</translation>
    </message>
</context>
<context>
    <name>lostline::app::Handle</name>
    <message>
        <source>Drag to resize; double-click to fold away or bring back</source>
        <translation>Ziehen ändert die Größe; Doppelklick klappt ein oder aus</translation>
    </message>
</context>
<context>
    <name>lostline::app::HealthTool</name>
    <message>
        <source>Health</source>
        <translation>Zustand</translation>
    </message>
    <message>
        <source>Receive</source>
        <translation>Eingang</translation>
    </message>
    <message>
        <source>The unit that the numbers in the file are meant in</source>
        <translation>Die Einheit, in der die Zahlen der Datei gemeint sind</translation>
    </message>
    <message>
        <source>file unit</source>
        <translation>Dateieinheit</translation>
    </message>
    <message>
        <source>triangles</source>
        <translation>Dreiecke</translation>
    </message>
    <message>
        <source>size, mm</source>
        <translation>Größe, mm</translation>
    </message>
    <message>
        <source>spacing, mm</source>
        <translation>Punktabstand, mm</translation>
    </message>
    <message>
        <source>noise σ, mm</source>
        <translation>Rauschen σ, mm</translation>
    </message>
    <message>
        <source>shared over, mm</source>
        <translation>gemeinsam, mm</translation>
    </message>
    <message>
        <source>open edges</source>
        <translation>offene Kanten</translation>
    </message>
    <message>
        <source>non-manifold</source>
        <translation>Mehrfachkanten</translation>
    </message>
    <message>
        <source>turn inside out</source>
        <translation>umstülpen</translation>
    </message>
    <message>
        <source>Reverse all triangles: for a scan that faces inwards</source>
        <translation>Alle Dreiecke umkehren: für einen Scan, der nach innen zeigt</translation>
    </message>
    <message>
        <source>Longest side %1 %2 when read as %3.</source>
        <translation>Längste Seite %1 %2, als %3 gelesen.</translation>
    </message>
    <message>
        <source>read scan as %1</source>
        <translation>Scan als %1 lesen</translation>
    </message>
    <message>
        <source>drop %1 islands</source>
        <translation>%1 Inseln entfernen</translation>
    </message>
    <message>
        <source>turn scan inside out</source>
        <translation>Scan umstülpen</translation>
    </message>
    <message>
        <source>unknown</source>
        <translation>unbekannt</translation>
    </message>
    <message>
        <source>nothing</source>
        <translation>nichts</translation>
    </message>
    <message>
        <source>Loose pieces with less than 2 % of the triangles of the largest: %1 triangles</source>
        <translation>Lose Stücke mit weniger als 2 % der Dreiecke des größten: %1 Dreiecke</translation>
    </message>
    <message>
        <source>The scan faces inwards. </source>
        <translation>Der Scan zeigt nach innen. </translation>
    </message>
    <message>
        <source>Unit: </source>
        <translation>Einheit: </translation>
    </message>
    <message>
        <source>from where is more seen</source>
        <translation>von wo sieht man mehr</translation>
    </message>
    <message>
        <source>Look from where another scan would see most of the open borders</source>
        <translation>Von dort schauen, wo ein weiterer Scan die meisten offenen Ränder sähe</translation>
    </message>
    <message>
        <source>looking …</source>
        <translation>wird gesucht …</translation>
    </message>
    <message>
        <source>From here another scan would see %1 % of the open borders.</source>
        <translation>Von hier sähe ein weiterer Scan %1 % der offenen Ränder.</translation>
    </message>
</context>
<context>
    <name>lostline::app::HoleTool</name>
    <message>
        <source>Hole</source>
        <translation>Bohrung</translation>
    </message>
    <message>
        <source>hole %1</source>
        <translation>Bohrung %1</translation>
    </message>
    <message>
        <source>⌀, mm</source>
        <translation>⌀, mm</translation>
    </message>
    <message>
        <source>A hole needs circles; this is %1.</source>
        <translation>Eine Bohrung braucht Kreise; dies ist %1.</translation>
    </message>
    <message>
        <source>There is no sketch yet. Take a section in Trace first.</source>
        <translation>Es gibt noch keine Skizze. Erst unter Zeichnen einen Schnitt legen.</translation>
    </message>
    <message>
        <source>Click the circles to drill.</source>
        <translation>Die Kreise zum Bohren anklicken.</translation>
    </message>
    <message>
        <source>
scan: ⌀ %1</source>
        <translation>
Scan: ⌀ %1</translation>
    </message>
    <message>
        <source>none</source>
        <translation>keine</translation>
    </message>
    <message>
        <source>Takes the hole and the seat that a screw wants: ISO 273 medium, DIN 974-1, ISO 15065</source>
        <translation>Nimmt Bohrung und Sitz, die eine Schraube braucht: ISO 273 mittel, DIN 974-1, ISO 15065</translation>
    </message>
    <message>
        <source>for screw</source>
        <translation>für Schraube</translation>
    </message>
    <message>
        <source>Tapped: the hole takes the diameter of the tap drill</source>
        <translation>Gewinde: die Bohrung nimmt den Kernlochdurchmesser</translation>
    </message>
    <message>
        <source>thread</source>
        <translation>Gewinde</translation>
    </message>
    <message>
        <source>through</source>
        <translation>durch alles</translation>
    </message>
    <message>
        <source>between levels</source>
        <translation>zwischen Höhen</translation>
    </message>
    <message>
        <source>goes</source>
        <translation>reicht</translation>
    </message>
    <message>
        <source>from</source>
        <translation>aus</translation>
    </message>
    <message>
        <source>to</source>
        <translation>bis</translation>
    </message>
    <message>
        <source>flat</source>
        <translation>flach</translation>
    </message>
    <message>
        <source>118° point</source>
        <translation>118°-Spitze</translation>
    </message>
    <message>
        <source>bottom</source>
        <translation>unten</translation>
    </message>
    <message>
        <source>counterbore</source>
        <translation>Zylindersenkung</translation>
    </message>
    <message>
        <source>countersink</source>
        <translation>Kegelsenkung</translation>
    </message>
    <message>
        <source>head</source>
        <translation>Senkung</translation>
    </message>
    <message>
        <source>head ⌀, mm</source>
        <translation>Senkung ⌀, mm</translation>
    </message>
    <message>
        <source>deep, mm</source>
        <translation>tief, mm</translation>
    </message>
    <message>
        <source>angle, °</source>
        <translation>Winkel, °</translation>
    </message>
    <message>
        <source>entry at</source>
        <translation>Ansatz bei</translation>
    </message>
    <message>
        <source>from below</source>
        <translation>von unten</translation>
    </message>
    <message>
        <source>, mm</source>
        <translation>, mm</translation>
    </message>
    <message>
        <source>
scan: counterbore ⌀ %1</source>
        <translation>
Scan: Zylindersenkung ⌀ %1</translation>
    </message>
    <message>
        <source>
scan: countersink ⌀ %1</source>
        <translation>
Scan: Kegelsenkung ⌀ %1</translation>
    </message>
    <message>
        <source>, deep %1</source>
        <translation>, %1 tief</translation>
    </message>
    <message>
        <source>, at %1 holes</source>
        <translation>, an %1 Bohrungen</translation>
    </message>
    <message>
        <source>%1 places, through everything</source>
        <translation>%1 Stellen, durch alles</translation>
    </message>
    <message>
        <source>%1 places, between levels</source>
        <translation>%1 Stellen, zwischen Höhen</translation>
    </message>
    <message>
        <source>Tolerance class of the thread, ISO 965-1</source>
        <translation>Toleranzklasse des Gewindes, ISO 965-1</translation>
    </message>
    <message>
        <source>class</source>
        <translation>Klasse</translation>
    </message>
    <message>
        <source>cut the thread&apos;s turns</source>
        <translation>Gewindegänge schneiden</translation>
    </message>
    <message>
        <source>Without, the thread is said in names and Ledger alone</source>
        <translation>Ohne dies steht das Gewinde nur in Namen und Maßbuch</translation>
    </message>
</context>
<context>
    <name>lostline::app::InkTool</name>
    <message>
        <source>Ink</source>
        <translation>Festlegen</translation>
    </message>
    <message>
        <source>Build</source>
        <translation>Aufbau</translation>
    </message>
    <message>
        <source>Proposed decisions</source>
        <translation>Vorgeschlagene Entscheidungen</translation>
    </message>
    <message>
        <source>Untick what you want to decide yourself</source>
        <translation>Haken wegnehmen, was selbst entschieden wird</translation>
    </message>
    <message>
        <source>Ink  ⏎</source>
        <translation>Festlegen  ⏎</translation>
    </message>
    <message>
        <source>%1
%2 → %3   %4, %5 % likely</source>
        <translation>%1
%2 → %3   %4, %5 % wahrscheinlich</translation>
    </message>
    <message>
        <source>ink %1 rows</source>
        <translation>%1 Zeilen festlegen</translation>
    </message>
    <message>
        <source>%1 of %2 rows will be inked, as one step that can be undone.</source>
        <translation>%1 von %2 Zeilen werden festgelegt, in einem Zug, der zurückgenommen werden kann.</translation>
    </message>
    <message>
        <source>Every row is inked already.</source>
        <translation>Jede Zeile ist schon festgelegt.</translation>
    </message>
    <message>
        <source>No pencilled row has a nominal within its U: choose one in the Ledger and type its value.</source>
        <translation>Keine Zeile in Blei hat ein Nennmaß innerhalb ihrer U: eine im Maßbuch wählen und ihren Wert eingeben.</translation>
    </message>
    <message>
        <source>looking for what is certain …</source>
        <translation>sucht, was sicher ist …</translation>
    </message>
</context>
<context>
    <name>lostline::app::InstrumentCard</name>
    <message>
        <source>Receive</source>
        <translation>Eingang</translation>
    </message>
    <message>
        <source>stand-in turntable</source>
        <translation>Ersatz-Drehtisch</translation>
    </message>
    <message>
        <source>stand-in touch probe</source>
        <translation>Ersatz-Taster</translation>
    </message>
    <message>
        <source>at a socket</source>
        <translation>an einem Socket</translation>
    </message>
    <message>
        <source>A stand-in works on a model of a part; others wait at a local socket</source>
        <translation>Ein Ersatzgerät arbeitet an einem Modell eines Teils; andere warten an einem lokalen Socket</translation>
    </message>
    <message>
        <source>instrument</source>
        <translation>Gerät</translation>
    </message>
    <message>
        <source>part</source>
        <translation>Teil</translation>
    </message>
    <message>
        <source>socket</source>
        <translation>Socket</translation>
    </message>
    <message>
        <source>the demo part</source>
        <translation>das Demoteil</translation>
    </message>
    <message>
        <source>/run/instrument</source>
        <translation>/run/geraet</translation>
    </message>
    <message>
        <source>Model of the part that it works on; empty: the demo part</source>
        <translation>Modell des Teils, an dem es arbeitet; leer: das Demoteil</translation>
    </message>
    <message>
        <source>Name in the file system at which the instrument waits</source>
        <translation>Name im Dateisystem, an dem das Gerät wartet</translation>
    </message>
</context>
<context>
    <name>lostline::app::JoinTool</name>
    <message>
        <source>Join</source>
        <translation>Zusammenfügen</translation>
    </message>
    <message>
        <source>Receive</source>
        <translation>Eingang</translation>
    </message>
    <message>
        <source>scans</source>
        <translation>Scans</translation>
    </message>
    <message>
        <source>Those ticked are joined; the first one ticked stays where it lies</source>
        <translation>Die angekreuzten werden zusammengefügt; der erste bleibt, wo er liegt</translation>
    </message>
    <message>
        <source>links</source>
        <translation>Verbindungen</translation>
    </message>
    <message>
        <source>Two scans each that overlap; untick one to leave it out of account</source>
        <translation>Je zwei Scans, die sich überlappen; abwählen lässt eine außer Betracht</translation>
    </message>
    <message>
        <source>Spacings over which noise is averaged when they are merged</source>
        <translation>Punktabstände, über die das Rauschen beim Verschmelzen gemittelt wird</translation>
    </message>
    <message>
        <source>averaged over</source>
        <translation>gemittelt über</translation>
    </message>
    <message>
        <source>join again</source>
        <translation>neu zusammenfügen</translation>
    </message>
    <message>
        <source>Bring the ticked scans together anew</source>
        <translation>Die angekreuzten Scans neu zusammenbringen</translation>
    </message>
    <message numerus="yes">
        <source>join %n scan(s)</source>
        <translation>
            <numerusform>%n Scan zusammenfügen</numerusform>
            <numerusform>%n Scans zusammenfügen</numerusform>
        </translation>
    </message>
    <message>
        <source>Open the other scans of the part beside this one first (File, Open scans beside).</source>
        <translation>Zuerst die anderen Scans des Teils neben diesem öffnen (Datei, Scans daneben öffnen).</translation>
    </message>
    <message>
        <source>Tick the scans that are to be joined.</source>
        <translation>Die Scans ankreuzen, die zusammengefügt werden sollen.</translation>
    </message>
    <message numerus="yes">
        <source>bringing %n scan(s) together …</source>
        <translation>
            <numerusform>%n Scan wird zusammengebracht …</numerusform>
            <numerusform>%n Scans werden zusammengebracht …</numerusform>
        </translation>
    </message>
    <message>
        <source>RMS %1 over all links</source>
        <translation>RMS %1 über alle Verbindungen</translation>
    </message>
    <message>
        <source>
scan %1: ± %2, ± %3°</source>
        <translation>
Scan %1: ± %2, ± %3°</translation>
    </message>
    <message>
        <source>%1 and %2: RMS %3, %4 % shared</source>
        <translation>%1 und %2: RMS %3, %4 % gemeinsam</translation>
    </message>
    <message>
        <source>%1 and %2: left out</source>
        <translation>%1 und %2: ausgelassen</translation>
    </message>
    <message>
        <source>
scan %1 faces inwards and is turned inside out</source>
        <translation>
Scan %1 zeigt nach innen und wird gewendet</translation>
    </message>
    <message>
        <source>without help</source>
        <translation>ohne Hilfe</translation>
    </message>
    <message>
        <source>by pairs of places</source>
        <translation>nach Paaren von Stellen</translation>
    </message>
    <message>
        <source>by hand</source>
        <translation>von Hand</translation>
    </message>
    <message>
        <source>Pairs: click a place on the first scan and the same place on the chosen one, three times or more. By hand: drag the chosen scan, with Ctrl turn it.</source>
        <translation>Paare: eine Stelle am ersten Scan anklicken und dieselbe am gewählten, dreimal oder öfter. Von Hand: den gewählten Scan ziehen, mit Strg drehen.</translation>
    </message>
    <message>
        <source>laid</source>
        <translation>gelegt</translation>
    </message>
    <message>
        <source>drift between scans</source>
        <translation>Abstand zwischen Scans</translation>
    </message>
    <message>
        <source>Colours the first scan by how far the others lie from it</source>
        <translation>Färbt den ersten Scan danach, wie weit die anderen von ihm liegen</translation>
    </message>
    <message>
        <source>Of the chosen scan where the surface is averaged: 1 as its noise says, 0 leaves it out</source>
        <translation>Des gewählten Scans, wo die Fläche gemittelt wird: 1 wie sein Rauschen sagt, 0 lässt ihn weg</translation>
    </message>
    <message>
        <source>weight</source>
        <translation>Gewicht</translation>
    </message>
    <message>
        <source>forget a pair</source>
        <translation>Paar vergessen</translation>
    </message>
    <message>
        <source>Take back the last click, or the last pair</source>
        <translation>Den letzten Klick oder das letzte Paar zurücknehmen</translation>
    </message>
    <message>
        <source>Scan %1 lies where you left it: join again fits it from there.</source>
        <translation>Scan %1 liegt, wo Sie ihn gelassen haben: neu zusammenfügen passt ihn von dort ein.</translation>
    </message>
    <message>
        <source>No scan has a weight: nothing would be left.</source>
        <translation>Kein Scan hat ein Gewicht: es bliebe nichts übrig.</translation>
    </message>
    <message>
        <source>Tick the first scan: the others are laid on it.</source>
        <translation>Den ersten Scan ankreuzen: die anderen werden auf ihn gelegt.</translation>
    </message>
    <message>
        <source>Choose a ticked scan in the list, not the first: it is laid on that.</source>
        <translation>In der Liste einen angekreuzten Scan wählen, nicht den ersten: er wird auf diesen gelegt.</translation>
    </message>
    <message>
        <source>Drag scan %1 to where it belongs, with Ctrl turn it; then join again.</source>
        <translation>Scan %1 dorthin ziehen, wohin er gehört, mit Strg drehen; dann neu zusammenfügen.</translation>
    </message>
    <message>
        <source>Click a place on the first scan or on scan %1.</source>
        <translation>Eine Stelle am ersten Scan oder am Scan %1 anklicken.</translation>
    </message>
    <message>
        <source>Now the same place on scan %1.</source>
        <translation>Jetzt dieselbe Stelle am Scan %1.</translation>
    </message>
    <message>
        <source>Now the same place on the first scan.</source>
        <translation>Jetzt dieselbe Stelle am ersten Scan.</translation>
    </message>
    <message>
        <source>Pairs: %1, three or more tie it.</source>
        <translation>Paare: %1, drei oder mehr binden ihn.</translation>
    </message>
    <message>
        <source>Tick the first scan: drift is shown on it.</source>
        <translation>Den ersten Scan ankreuzen: der Abstand wird auf ihm gezeigt.</translation>
    </message>
    <message>
        <source>No other scan lies on the first one.</source>
        <translation>Kein anderer Scan liegt auf dem ersten.</translation>
    </message>
    <message>
        <source>proud</source>
        <translation>Aufmaß</translation>
    </message>
    <message>
        <source>short</source>
        <translation>Untermaß</translation>
    </message>
    <message>
        <source>the place</source>
        <translation>die Stelle</translation>
    </message>
    <message>
        <source>the centre of a ball</source>
        <translation>die Mitte einer Kugel</translation>
    </message>
    <message>
        <source>the centre of a circle</source>
        <translation>die Mitte eines Kreises</translation>
    </message>
    <message>
        <source>Reference targets: a click on a ball, or on the flat face beside a round hole or disc, means its centre</source>
        <translation>Referenzmarken: Ein Klick auf eine Kugel oder auf die ebene Fläche neben einem runden Loch oder einer Scheibe meint deren Mitte</translation>
    </message>
    <message>
        <source>a click is</source>
        <translation>ein Klick ist</translation>
    </message>
    <message>
        <source>The two are not the same: radius %1 on the first scan, %2 on the other. Click the same target once more.</source>
        <translation>Die beiden sind nicht dasselbe: Radius %1 am ersten Scan, %2 am anderen. Dasselbe Ziel noch einmal anklicken.</translation>
    </message>
</context>
<context>
    <name>lostline::app::LedgerPanel</name>
    <message>
        <source>Ledger</source>
        <translation>Maßbuch</translation>
    </message>
    <message>
        <source>Dimensions will be listed here with their reading and uncertainty. Dimension a sketch, build a step or measure between fits.</source>
        <translation>Maße mit Ablesung und Unsicherheit stehen hier. Eine Skizze bemaßen, einen Schritt aufbauen oder zwischen Elementen messen.</translation>
    </message>
    <message>
        <source>search</source>
        <translation>suchen</translation>
    </message>
    <message>
        <source>Search the Ledger</source>
        <translation>Im Maßbuch suchen</translation>
    </message>
    <message>
        <source>Rows with these words in name, evidence or reason</source>
        <translation>Zeilen mit diesen Wörtern in Name, Befund oder Grund</translation>
    </message>
    <message>
        <source>Rows shown</source>
        <translation>Gezeigte Zeilen</translation>
    </message>
    <message>
        <source>all</source>
        <translation>alle</translation>
    </message>
    <message>
        <source>pencilled</source>
        <translation>in Blei</translation>
    </message>
    <message>
        <source>inked</source>
        <translation>in Tusche</translation>
    </message>
    <message>
        <source>beyond U</source>
        <translation>jenseits U</translation>
    </message>
    <message>
        <source>ink …</source>
        <translation>festlegen …</translation>
    </message>
    <message>
        <source>Ink all within U</source>
        <translation>Alles innerhalb U festlegen</translation>
    </message>
    <message>
        <source>Propose a nominal for every pencilled row that has one within U</source>
        <translation>Für jede Zeile in Blei ein Nennmaß innerhalb U vorschlagen</translation>
    </message>
    <message>
        <source>Copy the rows</source>
        <translation>Zeilen kopieren</translation>
    </message>
    <message numerus="yes">
        <source>%n row(s) copied</source>
        <translation>
            <numerusform>%n Zeile kopiert</numerusform>
            <numerusform>%n Zeilen kopiert</numerusform>
        </translation>
    </message>
    <message>
        <source>By step and sketch</source>
        <translation>Nach Schritt und Skizze</translation>
    </message>
    <message>
        <source>%1 inked · %2 in pencil</source>
        <translation>%1 in Tusche · %2 in Blei</translation>
    </message>
    <message>
        <source>ink %1 %2</source>
        <translation>%1 auf %2 festlegen</translation>
    </message>
    <message>
        <source>ink a formula</source>
        <translation>eine Formel festlegen</translation>
    </message>
    <message>
        <source>typed reading</source>
        <translation>eingetippte Ablesung</translation>
    </message>
    <message>
        <source>ink</source>
        <translation>festlegen</translation>
    </message>
    <message>
        <source>take the decision back: the reading counts again</source>
        <translation>Entscheidung zurücknehmen: wieder zählt die Ablesung</translation>
    </message>
    <message>
        <source>Lift the ink</source>
        <translation>Die Festlegung aufheben</translation>
    </message>
    <message>
        <source>lift %1</source>
        <translation>%1 aufheben</translation>
    </message>
    <message>
        <source>lift</source>
        <translation>aufheben</translation>
    </message>
    <message>
        <source>, agrees</source>
        <translation>, stimmt überein</translation>
    </message>
    <message>
        <source>, differs</source>
        <translation>, weicht ab</translation>
    </message>
    <message>
        <source>Typed reading beside the scan&apos;s</source>
        <translation>Eingetippte Ablesung neben der des Scans</translation>
    </message>
    <message>
        <source>remove a typed reading</source>
        <translation>eine eingetippte Ablesung entfernen</translation>
    </message>
    <message>
        <source>remove</source>
        <translation>entfernen</translation>
    </message>
    <message>
        <source>another value</source>
        <translation>anderer Wert</translation>
    </message>
    <message>
        <source>Another value for %1</source>
        <translation>Anderer Wert für %1</translation>
    </message>
    <message>
        <source>The value that was meant, or = and a formula with other rows in brackets, as in
= [height] / 2 + 3; Return decides. “caliper 62.01 ± 0.02” adds a typed reading.</source>
        <translation>Der gemeinte Wert, oder = und eine Formel mit anderen Zeilen in Klammern, wie in
= [Höhe] / 2 + 3; Eingabe entscheidet. „Messschieber 62.01 ± 0.02“ fügt eine eingetippte Ablesung hinzu.</translation>
    </message>
    <message>
        <source>typed</source>
        <translation>eingetippt</translation>
    </message>
    <message>
        <source>valley</source>
        <translation>Tal</translation>
    </message>
    <message>
        <source>Valley of %1</source>
        <translation>Tal von %1</translation>
    </message>
    <message>
        <source>Draw in the Strip how the deviation depends on this value</source>
        <translation>Im Streifen zeichnen, wie die Abweichung von diesem Wert abhängt</translation>
    </message>
    <message>
        <source>region %1 as a whole: %2</source>
        <translation>Bereich %1 im Ganzen: %2</translation>
    </message>
    <message>
        <source>What the whole regions say that the section runs through. Nominals rest on it where it is the surer one and agrees with the section.</source>
        <translation>Was die ganzen Bereiche sagen, durch die der Schnitt läuft. Nennmaße ruhen darauf, wo das die sicherere Ablesung ist und mit der des Schnitts übereinstimmt.</translation>
    </message>
</context>
<context>
    <name>lostline::app::MainWindow</name>
    <message>
        <source>Keep this view</source>
        <translation>Diese Ansicht behalten</translation>
    </message>
    <message>
        <source>Name under its picture in the report:</source>
        <translation>Name unter ihrem Bild im Bericht:</translation>
    </message>
    <message>
        <source>view %1</source>
        <translation>Ansicht %1</translation>
    </message>
    <message>
        <source>keep view %1</source>
        <translation>Ansicht %1 behalten</translation>
    </message>
    <message>
        <source>Go there</source>
        <translation>Dorthin gehen</translation>
    </message>
    <message>
        <source>Take it out of the report</source>
        <translation>Aus dem Bericht nehmen</translation>
    </message>
    <message>
        <source>take a view out</source>
        <translation>eine Ansicht herausnehmen</translation>
    </message>
    <message>
        <source>no views kept yet</source>
        <translation>noch keine Ansichten behalten</translation>
    </message>
    <message>
        <source>×</source>
        <translation>×</translation>
    </message>
    <message>
        <source>Cancel the running work</source>
        <translation>Die laufende Arbeit abbrechen</translation>
    </message>
    <message>
        <source>Cancel</source>
        <translation>Abbrechen</translation>
    </message>
    <message>
        <source>%1 (and %2 more)</source>
        <translation>%1 (und %2 weitere)</translation>
    </message>
    <message>
        <source>%1 is not possible yet. %2</source>
        <translation>%1 ist noch nicht möglich. %2</translation>
    </message>
    <message>
        <source>Next: %1</source>
        <translation>Weiter: %1</translation>
    </message>
    <message>
        <source>%1
Click to start it.</source>
        <translation>%1
Klicken, um es zu beginnen.</translation>
    </message>
    <message>
        <source>no part yet</source>
        <translation>noch kein Teil</translation>
    </message>
    <message>
        <source>valley of %1</source>
        <translation>Tal von %1</translation>
    </message>
    <message>
        <source>opening %1</source>
        <translation>%1 wird geöffnet</translation>
    </message>
    <message numerus="yes">
        <source>opening %n scan(s)</source>
        <translation>
            <numerusform>%n Scan wird geöffnet</numerusform>
            <numerusform>%n Scans werden geöffnet</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>open %n scan(s) beside</source>
        <translation>
            <numerusform>%n Scan daneben öffnen</numerusform>
            <numerusform>%n Scans daneben öffnen</numerusform>
        </translation>
    </message>
    <message>
        <source>saving %1</source>
        <translation>%1 wird gesichert</translation>
    </message>
    <message>
        <source>saved %1</source>
        <translation>%1 gesichert</translation>
    </message>
    <message>
        <source>Save the project</source>
        <translation>Projekt sichern</translation>
    </message>
    <message>
        <source>Projects</source>
        <translation>Projekte</translation>
    </message>
    <message>
        <source>%1 exists. Write over it?</source>
        <translation>%1 gibt es schon. Überschreiben?</translation>
    </message>
    <message>
        <source>Go on without it?</source>
        <translation>Ohne das weitermachen?</translation>
    </message>
    <message>
        <source>Save the changes to %1?</source>
        <translation>Änderungen an %1 sichern?</translation>
    </message>
    <message>
        <source>Not kept yet, and lost by this: %1.</source>
        <translation>Noch nicht übernommen und hierdurch verloren: %1.</translation>
    </message>
    <message>
        <source>, </source>
        <translation>, </translation>
    </message>
    <message>
        <source>Open in another window</source>
        <translation>In einem anderen Fenster offen</translation>
    </message>
    <message>
        <source>%1 is open in another window. Two windows that save to it would take away each other&apos;s work.</source>
        <translation>%1 ist in einem anderen Fenster offen. Zwei Fenster, die darin speichern, nähmen einander die Arbeit weg.</translation>
    </message>
    <message>
        <source>Open a copy</source>
        <translation>Eine Kopie öffnen</translation>
    </message>
    <message>
        <source>%1 is open in another window. Save under another name.</source>
        <translation>%1 ist in einem anderen Fenster offen. Unter einem anderen Namen speichern.</translation>
    </message>
    <message>
        <source>Unsaved changes</source>
        <translation>Ungesicherte Änderungen</translation>
    </message>
    <message>
        <source>recovering</source>
        <translation>wird wiederhergestellt</translation>
    </message>
    <message>
        <source>no files yet</source>
        <translation>noch keine Dateien</translation>
    </message>
    <message>
        <source>Nothing is selected to zoom to.</source>
        <translation>Nichts gewählt, worauf gezoomt werden könnte.</translation>
    </message>
    <message>
        <source>Drag the window that the view is zoomed to.</source>
        <translation>Das Fenster ziehen, auf das gezoomt wird.</translation>
    </message>
    <message>
        <source>Select a face or region first: the view turns to look straight at it.</source>
        <translation>Erst eine Fläche oder einen Bereich wählen: die Ansicht dreht sich gerade davor.</translation>
    </message>
    <message>
        <source>Drag the clip plane by its handle; W f shows the other side, W c takes it away.</source>
        <translation>Die Schnittebene am Griff ziehen; W f zeigt die andere Seite, W c nimmt sie weg.</translation>
    </message>
    <message>
        <source>There is no clip plane: W c puts one in.</source>
        <translation>Es gibt keine Schnittebene: W c legt eine.</translation>
    </message>
    <message>
        <source>&amp;File</source>
        <translation>&amp;Datei</translation>
    </message>
    <message>
        <source>&amp;Open …</source>
        <translation>Ö&amp;ffnen …</translation>
    </message>
    <message>
        <source>Open scans &amp;beside …</source>
        <translation>Scans &amp;daneben öffnen …</translation>
    </message>
    <message>
        <source>Open scans beside the one worked on</source>
        <translation>Scans neben dem bearbeiteten öffnen</translation>
    </message>
    <message>
        <source>Scans</source>
        <translation>Scans</translation>
    </message>
    <message>
        <source>Open &amp;recent</source>
        <translation>&amp;Zuletzt geöffnet</translation>
    </message>
    <message>
        <source>&amp;Save</source>
        <translation>&amp;Sichern</translation>
    </message>
    <message>
        <source>Save &amp;as …</source>
        <translation>Sichern &amp;unter …</translation>
    </message>
    <message>
        <source>&amp;Quit</source>
        <translation>&amp;Beenden</translation>
    </message>
    <message>
        <source>&amp;Edit</source>
        <translation>&amp;Bearbeiten</translation>
    </message>
    <message>
        <source>Re&amp;compute the model</source>
        <translation>Modell &amp;neu berechnen</translation>
    </message>
    <message>
        <source>&amp;Preferences …</source>
        <translation>&amp;Einstellungen …</translation>
    </message>
    <message>
        <source>&amp;View</source>
        <translation>&amp;Ansicht</translation>
    </message>
    <message>
        <source>Oblique</source>
        <translation>Schräg</translation>
    </message>
    <message>
        <source>Front</source>
        <translation>Vorn</translation>
    </message>
    <message>
        <source>Back</source>
        <translation>Hinten</translation>
    </message>
    <message>
        <source>Left</source>
        <translation>Links</translation>
    </message>
    <message>
        <source>Right</source>
        <translation>Rechts</translation>
    </message>
    <message>
        <source>Top</source>
        <translation>Oben</translation>
    </message>
    <message>
        <source>Bottom</source>
        <translation>Unten</translation>
    </message>
    <message>
        <source>Whole part	W 0</source>
        <translation>Ganzes Teil	W 0</translation>
    </message>
    <message>
        <source>Zoom to the selection	W s</source>
        <translation>Auf die Auswahl zoomen	W s</translation>
    </message>
    <message>
        <source>Zoom by window	W w</source>
        <translation>Fenster zoomen	W w</translation>
    </message>
    <message>
        <source>Straight at the selection	W n</source>
        <translation>Gerade auf die Auswahl	W n</translation>
    </message>
    <message>
        <source>Clip plane across the view	W c</source>
        <translation>Schnittebene quer zur Ansicht	W c</translation>
    </message>
    <message>
        <source>Other side of the clip plane	W f</source>
        <translation>Andere Seite der Schnittebene	W f</translation>
    </message>
    <message>
        <source>Show everything that is hidden</source>
        <translation>Alles Verborgene zeigen</translation>
    </message>
    <message>
        <source>Left column</source>
        <translation>Linke Spalte</translation>
    </message>
    <message>
        <source>Alt+1</source>
        <translation>Alt+1</translation>
    </message>
    <message>
        <source>Right column</source>
        <translation>Rechte Spalte</translation>
    </message>
    <message>
        <source>Alt+2</source>
        <translation>Alt+2</translation>
    </message>
    <message>
        <source>Strip</source>
        <translation>Streifen</translation>
    </message>
    <message>
        <source>Alt+3</source>
        <translation>Alt+3</translation>
    </message>
    <message>
        <source>&amp;Keep this view for the report …</source>
        <translation>Ansicht für den Bericht &amp;behalten …</translation>
    </message>
    <message>
        <source>Kept &amp;views</source>
        <translation>Behaltene A&amp;nsichten</translation>
    </message>
    <message>
        <source>Scan, model or both</source>
        <translation>Scan, Modell oder beides</translation>
    </message>
    <message>
        <source>&amp;Stage</source>
        <translation>&amp;Stufe</translation>
    </message>
    <message>
        <source>Tools of %1</source>
        <translation>Werkzeuge: %1</translation>
    </message>
    <message>
        <source>&amp;Help</source>
        <translation>&amp;Hilfe</translation>
    </message>
    <message>
        <source>&amp;Guide</source>
        <translation>&amp;Handbuch</translation>
    </message>
    <message>
        <source>&amp;Tour of the demo</source>
        <translation>&amp;Rundgang am Vorführteil</translation>
    </message>
    <message>
        <source>&amp;Keys and mouse</source>
        <translation>&amp;Tasten und Maus</translation>
    </message>
    <message>
        <source>Keys and mouse</source>
        <translation>Tasten und Maus</translation>
    </message>
    <message>
        <source>Left drag, where no tool takes it, or middle drag: orbit about the place under the pointer.
Alt + left drag: orbit always.  Right drag: pan.  Wheel: zoom at the pointer.
Touchpad: two fingers pan, a pinch zooms.
Space held: see-through scan.  F4: scan, model or both.
Alt+1, Alt+2, Alt+3: fold the left column, the right one, the Strip.
Return keeps, Esc discards.  Ctrl+1 … Ctrl+7: stages.  Ctrl+F: search.
Leader keys, then a letter that the status line shows: W view; the tools of a stage: I
Receive, F Survey, D Datum, K Trace, B Build, P Prove, O Release; in a sketch G draw,
R constraint, V value.  F1: the guide at the running tool.</source>
        <translation>Links ziehen, wo kein Werkzeug es braucht, oder Mitte ziehen: um die Stelle unter dem Zeiger drehen.
Alt + links ziehen: immer drehen.  Rechts ziehen: schieben.  Rad: am Zeiger zoomen.
Touchpad: zwei Finger schieben, Spreizen zoomt.
Leertaste gehalten: Scan durchscheinend.  F4: Scan, Modell oder beides.
Alt+1, Alt+2, Alt+3: linke Spalte, rechte, Streifen einklappen.
Eingabe übernimmt, Esc verwirft.  Strg+1 … Strg+7: Stufen.  Strg+F: suchen.
Leittaste, dann ein Buchstabe, den die Statuszeile zeigt: W Ansicht; Werkzeuge einer Stufe: I
Eingang, F Aufnahme, D Bezug, K Zeichnen, B Aufbau, P Nachweis, O Freigabe; in einer Skizze G zeichnen,
R Bedingung, V Wert.  F1: das Handbuch beim laufenden Werkzeug.</translation>
    </message>
    <message>
        <source>&amp;About</source>
        <translation>Ü&amp;ber</translation>
    </message>
    <message>
        <source>About Lost Line</source>
        <translation>Über Lost Line</translation>
    </message>
    <message>
        <source>Lost Line %1
From a scan to the part that was meant.
GPL-3.0-or-later; fonts B612 and osifont, icons Lucide, with their licences in the sources.</source>
        <translation>Lost Line %1
Vom Scan zum Teil, das gemeint war.
GPL-3.0-or-later; Schriften B612 und osifont, Symbole Lucide, mit ihren Lizenzen in den Quellen.</translation>
    </message>
    <message>
        <source>Search</source>
        <translation>Suchen</translation>
    </message>
    <message>
        <source>Ctrl+Shift+Z</source>
        <translation>Ctrl+Shift+Z</translation>
    </message>
    <message>
        <source>Undo</source>
        <translation>Zurücknehmen</translation>
    </message>
    <message>
        <source>Redo</source>
        <translation>Wiederholen</translation>
    </message>
    <message>
        <source>There is nothing to undo.</source>
        <translation>Es gibt nichts zurückzunehmen.</translation>
    </message>
    <message>
        <source>There is nothing to redo.</source>
        <translation>Es gibt nichts zu wiederholen.</translation>
    </message>
    <message>
        <source>Open a scan or project</source>
        <translation>Einen Scan oder ein Projekt öffnen</translation>
    </message>
    <message>
        <source>Scans and projects</source>
        <translation>Scans und Projekte</translation>
    </message>
    <message>
        <source>Nothing lies wholly inside the box. Draw it round whole regions or faces.</source>
        <translation>Nichts liegt ganz im Rahmen. Ihn um ganze Bereiche oder Flächen ziehen.</translation>
    </message>
    <message numerus="yes">
        <source>%n selected</source>
        <translation>
            <numerusform>%n gewählt</numerusform>
            <numerusform>%n gewählt</numerusform>
        </translation>
    </message>
    <message>
        <source>Sketch %1 against its section</source>
        <translation>Skizze %1 gegen ihren Schnitt</translation>
    </message>
    <message>
        <source>Zoom to it	W s</source>
        <translation>Darauf zoomen	W s</translation>
    </message>
    <message>
        <source>Look straight at it	W n</source>
        <translation>Gerade darauf blicken	W n</translation>
    </message>
    <message>
        <source>Edit the sketch</source>
        <translation>Skizze ändern</translation>
    </message>
    <message>
        <source>%1 …</source>
        <translation>%1 …</translation>
    </message>
    <message>
        <source>Show</source>
        <translation>Zeigen</translation>
    </message>
    <message>
        <source>Translucent</source>
        <translation>Durchscheinend</translation>
    </message>
    <message>
        <source>Hide</source>
        <translation>Verbergen</translation>
    </message>
    <message>
        <source>Show only this</source>
        <translation>Nur dies zeigen</translation>
    </message>
    <message>
        <source>Show everything</source>
        <translation>Alles zeigen</translation>
    </message>
    <message>
        <source>Take the clip plane away	W c</source>
        <translation>Schnittebene wegnehmen	W c</translation>
    </message>
    <message>
        <source>Show the other side of the clip plane	W f</source>
        <translation>Die andere Seite der Schnittebene zeigen	W f</translation>
    </message>
    <message>
        <source>sketch of %1</source>
        <translation>Skizze aus %1</translation>
    </message>
    <message>
        <source>Curves for a sketch</source>
        <translation>Kurven für eine Skizze</translation>
    </message>
    <message>
        <source>Left out: %1.</source>
        <translation>Ausgelassen: %1.</translation>
    </message>
    <message>
        <source>Open a &amp;demo part</source>
        <translation>Ein &amp;Vorführteil öffnen</translation>
    </message>
    <message>
        <source>&amp;Pedestal</source>
        <translation>&amp;Lagerbock</translation>
    </message>
    <message>
        <source>Drum &amp;flange</source>
        <translation>Trommel&amp;flansch</translation>
    </message>
    <message>
        <source>&amp;Wall bracket</source>
        <translation>&amp;Wandhalter</translation>
    </message>
    <message>
        <source>&amp;Crank, in two scans</source>
        <translation>&amp;Kurbel, in zwei Scans</translation>
    </message>
    <message>
        <source>&amp;Brake drum</source>
        <translation>Bre&amp;mstrommel</translation>
    </message>
    <message>
        <source>The scan is drawn by its points; W p shows its surface again.</source>
        <translation>Der Scan wird mit seinen Punkten gezeichnet; W p zeigt wieder seine Fläche.</translation>
    </message>
    <message>
        <source>Scan as points	W p</source>
        <translation>Scan als Punkte	W p</translation>
    </message>
</context>
<context>
    <name>lostline::app::MeasureTool</name>
    <message>
        <source>Measure</source>
        <translation>Messen</translation>
    </message>
    <message>
        <source>Survey</source>
        <translation>Aufnahme</translation>
    </message>
    <message>
        <source>distance of two fits</source>
        <translation>Abstand zweier Elemente</translation>
    </message>
    <message>
        <source>angle of two fits</source>
        <translation>Winkel zweier Elemente</translation>
    </message>
    <message>
        <source>radius by three points</source>
        <translation>Radius durch drei Punkte</translation>
    </message>
    <message>
        <source>wall thickness</source>
        <translation>Wanddicke</translation>
    </message>
    <message>
        <source>distance of two points</source>
        <translation>Abstand zweier Punkte</translation>
    </message>
    <message>
        <source>what</source>
        <translation>was</translation>
    </message>
    <message>
        <source>pick two fits</source>
        <translation>zwei Elemente wählen</translation>
    </message>
    <message>
        <source>between</source>
        <translation>zwischen</translation>
    </message>
    <message>
        <source>measure %1</source>
        <translation>%1 messen</translation>
    </message>
    <message>
        <source>measure</source>
        <translation>messen</translation>
    </message>
    <message>
        <source>Click two regions or fits.</source>
        <translation>Zwei Bereiche oder Ausgleichselemente anklicken.</translation>
    </message>
    <message>
        <source>Click %1 of %2 points on the scan.</source>
        <translation>%1 von %2 Punkten auf dem Scan anklicken.</translation>
    </message>
</context>
<context>
    <name>lostline::app::MeshTool</name>
    <message>
        <source>Mesh</source>
        <translation>Vernetzen</translation>
    </message>
    <message>
        <source>Receive</source>
        <translation>Eingang</translation>
    </message>
    <message>
        <source>the points</source>
        <translation>die Punkte</translation>
    </message>
    <message>
        <source>noise that is left</source>
        <translation>verbliebenes Rauschen</translation>
    </message>
    <message>
        <source>show</source>
        <translation>zeigen</translation>
    </message>
    <message>
        <source>Of the mesh; 0: as the points lie</source>
        <translation>Des Netzes; 0: wie die Punkte liegen</translation>
    </message>
    <message>
        <source>spacing, mm</source>
        <translation>Punktabstand, mm</translation>
    </message>
    <message>
        <source>Spacings over which noise is averaged; 0: the points stay where they are</source>
        <translation>Punktabstände, über die das Rauschen gemittelt wird; 0: Die Punkte bleiben, wo sie sind</translation>
    </message>
    <message>
        <source> spacings</source>
        <translation> Abstände</translation>
    </message>
    <message>
        <source>averaged over</source>
        <translation>gemittelt über</translation>
    </message>
    <message>
        <source>Spacings: no triangle reaches further, so nothing is made where no points were</source>
        <translation>Punktabstände: Kein Dreieck reicht weiter, also entsteht nichts, wo keine Punkte waren</translation>
    </message>
    <message>
        <source>bridges up to</source>
        <translation>überbrückt bis</translation>
    </message>
    <message>
        <source>Triangles: smaller islands are dropped</source>
        <translation>Dreiecke: Kleinere Inseln fallen weg</translation>
    </message>
    <message>
        <source> triangles</source>
        <translation> Dreiecke</translation>
    </message>
    <message>
        <source>islands from</source>
        <translation>Inseln ab</translation>
    </message>
    <message>
        <source>The scan is no cloud of points, or was worked on since it was opened. Open its file again to mesh it another way.</source>
        <translation>Der Scan ist keine Punktwolke oder wurde seit dem Öffnen bearbeitet. Öffnen Sie seine Datei neu, um ihn anders zu vernetzen.</translation>
    </message>
    <message>
        <source>mesh the points anew</source>
        <translation>Punkte neu vernetzen</translation>
    </message>
    <message>
        <source>meshing …</source>
        <translation>vernetzt …</translation>
    </message>
    <message>
        <source>reading the points …</source>
        <translation>liest die Punkte …</translation>
    </message>
    <message>
        <source>%1 points</source>
        <translation>%1 Punkte</translation>
    </message>
    <message>
        <source>, read as %1</source>
        <translation>, gelesen als %1</translation>
    </message>
    <message>
        <source>
%1 %3 apart, noise %2 %3</source>
        <translation>
%1 %3 Abstand, Rauschen %2 %3</translation>
    </message>
    <message>
        <source>
all of them lie on the surface</source>
        <translation>
alle liegen auf der Fläche</translation>
    </message>
    <message>
        <source>
%1 belong to no surface, in red</source>
        <translation>
%1 gehören zu keiner Fläche, rot</translation>
    </message>
    <message>
        <source>
%1 triangles, open borders %2 %3</source>
        <translation>
%1 Dreiecke, offene Ränder %2 %3</translation>
    </message>
    <message>
        <source>
left of the noise, U: %1 %2</source>
        <translation>
vom Rauschen verbleibt, U: %1 %2</translation>
    </message>
    <message>
        <source>; purple below %1, orange above %2</source>
        <translation>; violett unter %1, orange über %2</translation>
    </message>
</context>
<context>
    <name>lostline::app::MirrorTool</name>
    <message>
        <source>Mirror</source>
        <translation>Spiegelung</translation>
    </message>
    <message>
        <source>mirrored %1</source>
        <translation>gespiegelt %1</translation>
    </message>
    <message>
        <source>the whole part</source>
        <translation>das ganze Teil</translation>
    </message>
    <message>
        <source>of</source>
        <translation>von</translation>
    </message>
    <message>
        <source>in plane</source>
        <translation>in Ebene</translation>
    </message>
</context>
<context>
    <name>lostline::app::MissingTool</name>
    <message>
        <source>Missing</source>
        <translation>Fehlendes</translation>
    </message>
    <message>
        <source>Prove</source>
        <translation>Nachweis</translation>
    </message>
    <message>
        <source>A place of the model counts as seen when the scan lies this near</source>
        <translation>Eine Stelle des Modells gilt als gesehen, wenn der Scan so nahe liegt</translation>
    </message>
    <message>
        <source>seen within, mm</source>
        <translation>gesehen innerhalb, mm</translation>
    </message>
    <message>
        <source>There is no model yet: build a step first.</source>
        <translation>Es gibt noch kein Modell: erst einen Schritt aufbauen.</translation>
    </message>
    <message>
        <source>%1 % of the model&apos;s surface is seen; hatched: not</source>
        <translation>%1 % der Oberfläche des Modells sind gesehen; schraffiert: nicht</translation>
    </message>
    <message>
        <source>
%1 % of %2</source>
        <translation>
%1 % von %2</translation>
    </message>
</context>
<context>
    <name>lostline::app::PatchTool</name>
    <message>
        <source>Patch</source>
        <translation>Freiformfläche</translation>
    </message>
    <message>
        <source>patch %1</source>
        <translation>Freiformfläche %1</translation>
    </message>
    <message>
        <source>choose the area again</source>
        <translation>den Bereich neu wählen</translation>
    </message>
    <message>
        <source>Forget the area and click it on the scan</source>
        <translation>Den Bereich vergessen und auf dem Scan anklicken</translation>
    </message>
    <message>
        <source>95 % of the points lie nearer than this; 0: as the noise asks</source>
        <translation>95 % der Punkte liegen näher; 0: wie das Rauschen es verlangt</translation>
    </message>
    <message>
        <source>tolerance, mm</source>
        <translation>Toleranz, mm</translation>
    </message>
    <message>
        <source>Along the longer side; 0: by the tolerance</source>
        <translation>Entlang der längeren Seite; 0: nach der Toleranz</translation>
    </message>
    <message>
        <source>spans</source>
        <translation>Felder</translation>
    </message>
    <message>
        <source>Larger is stiffer: each step counts tenfold</source>
        <translation>Größer ist steifer: jede Stufe zählt zehnfach</translation>
    </message>
    <message>
        <source>stiffer</source>
        <translation>steifer</translation>
    </message>
    <message>
        <source>Extended beyond the area by this share of its size, for trimming</source>
        <translation>Um diesen Anteil seiner Größe über den Bereich hinaus, zum Beschneiden</translation>
    </message>
    <message>
        <source>beyond, %</source>
        <translation>darüber hinaus, %</translation>
    </message>
    <message>
        <source>Click an area of the scan.</source>
        <translation>Einen Bereich des Scans anklicken.</translation>
    </message>
    <message>
        <source>Click a free-form region of the scan, or any smooth area.</source>
        <translation>Einen Freiformbereich des Scans oder eine glatte Stelle anklicken.</translation>
    </message>
    <message>
        <source>fitting the face …</source>
        <translation>die Fläche wird eingepasst …</translation>
    </message>
    <message>
        <source>%1 × %2 poles</source>
        <translation>%1 × %2 Pole</translation>
    </message>
    <message>
        <source> · RMS %1 · 95 % within %2 · greatest %3</source>
        <translation> · RMS %1 · 95 % innerhalb %2 · größte %3</translation>
    </message>
    <message>
        <source>The tolerance is not met.</source>
        <translation>Die Toleranz ist nicht erreicht.</translation>
    </message>
    <message>
        <source>It follows noise: fewer spans would do.</source>
        <translation>Sie folgt dem Rauschen: weniger Felder genügten.</translation>
    </message>
    <message>
        <source>While it is pressed, clicks take curves and edges of the model that bound the face; what of the area lies inside them is the evidence</source>
        <translation>Solange gedrückt, nehmen Klicks Kurven und Kanten des Modells, die die Fläche begrenzen; was vom Bereich darin liegt, ist der Beleg</translation>
    </message>
    <message>
        <source>border</source>
        <translation>Rand</translation>
    </message>
    <message>
        <source>tangent to the faces of its edges</source>
        <translation>tangential an die Flächen seiner Kanten</translation>
    </message>
    <message>
        <source>Click a curve, or an edge of the model.</source>
        <translation>Eine Kurve oder eine Kante des Modells anklicken.</translation>
    </message>
    <message>
        <source>click curves and edges</source>
        <translation>Kurven und Kanten anklicken</translation>
    </message>
    <message>
        <source>free</source>
        <translation>frei</translation>
    </message>
    <message numerus="yes">
        <source>%n curve(s) and edge(s)</source>
        <translation>
            <numerusform>%n Kurve oder Kante</numerusform>
            <numerusform>%n Kurven und Kanten</numerusform>
        </translation>
    </message>
    <message>
        <source>border within %1, turned by at most %2°</source>
        <translation>Rand auf %1, höchstens %2° gedreht</translation>
    </message>
    <message>
        <source>border within %1</source>
        <translation>Rand auf %1</translation>
    </message>
</context>
<context>
    <name>lostline::app::PatternTool</name>
    <message>
        <source>Pattern</source>
        <translation>Muster</translation>
    </message>
    <message>
        <source>pattern %1</source>
        <translation>Muster %1</translation>
    </message>
    <message>
        <source>of step</source>
        <translation>von Schritt</translation>
    </message>
    <message>
        <source>in a row</source>
        <translation>in einer Reihe</translation>
    </message>
    <message>
        <source>round an axis</source>
        <translation>um eine Achse</translation>
    </message>
    <message>
        <source>arranged</source>
        <translation>angeordnet</translation>
    </message>
    <message>
        <source>axis</source>
        <translation>Achse</translation>
    </message>
    <message>
        <source>count</source>
        <translation>Anzahl</translation>
    </message>
    <message>
        <source>count, with it</source>
        <translation>Anzahl, mit ihm</translation>
    </message>
    <message>
        <source>apart, °</source>
        <translation>Teilung, °</translation>
    </message>
    <message>
        <source>apart, mm</source>
        <translation>Teilung, mm</translation>
    </message>
    <message>
        <source>There is no step to repeat yet. Build one first.</source>
        <translation>Es gibt noch keinen Schritt zum Wiederholen. Erst einen aufbauen.</translation>
    </message>
    <message>
        <source>at points of a sketch</source>
        <translation>an Punkten einer Skizze</translation>
    </message>
    <message>
        <source>along a curve</source>
        <translation>entlang einer Kurve</translation>
    </message>
    <message>
        <source>One at each point and at the centre of each circle of this sketch</source>
        <translation>Eines an jedem Punkt und in der Mitte jedes Kreises dieser Skizze</translation>
    </message>
    <message>
        <source>points of</source>
        <translation>Punkte von</translation>
    </message>
    <message>
        <source>curve</source>
        <translation>Kurve</translation>
    </message>
    <message>
        <source>turn with the curve</source>
        <translation>mit der Kurve drehen</translation>
    </message>
</context>
<context>
    <name>lostline::app::PatternsTool</name>
    <message>
        <source>Patterns</source>
        <translation>Anordnungen</translation>
    </message>
    <message>
        <source>Survey</source>
        <translation>Aufnahme</translation>
    </message>
    <message>
        <source>Tick what the designer meant; a row shows its regions on the Bench</source>
        <translation>Haken setzen, was der Konstrukteur meinte; eine Zeile zeigt ihre Bereiche auf der Werkbank</translation>
    </message>
    <message>
        <source>all</source>
        <translation>alle</translation>
    </message>
    <message>
        <source>Tick every row</source>
        <translation>Jede Zeile ankreuzen</translation>
    </message>
    <message>
        <source>none</source>
        <translation>keine</translation>
    </message>
    <message>
        <source>Tick no row</source>
        <translation>Keine Zeile ankreuzen</translation>
    </message>
    <message numerus="yes">
        <source>accept %n pattern(s)</source>
        <translation>
            <numerusform>%n Anordnung annehmen</numerusform>
            <numerusform>%n Anordnungen annehmen</numerusform>
        </translation>
    </message>
    <message>
        <source>The survey found no arrangement of faces.</source>
        <translation>Die Aufnahme fand keine Anordnung von Flächen.</translation>
    </message>
    <message>
        <source>Tick what was meant. Relations, features and Ledger rows follow.</source>
        <translation>Ankreuzen, was gemeint war. Beziehungen, Bezugselemente und Zeilen im Maßbuch folgen.</translation>
    </message>
    <message numerus="yes">
        <source>%n of the patterns will hold, all solved together.</source>
        <translation>
            <numerusform>%n der Anordnungen gilt, alle zusammen gelöst.</numerusform>
            <numerusform>%n der Anordnungen gelten, alle zusammen gelöst.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>lostline::app::PipeTool</name>
    <message>
        <source>Pipe</source>
        <translation>Rohr</translation>
    </message>
    <message>
        <source>pipe %1</source>
        <translation>Rohr %1</translation>
    </message>
    <message>
        <source>click the pipe again</source>
        <translation>das Rohr neu anklicken</translation>
    </message>
    <message>
        <source>Forget the centre line and click the pipe on the scan</source>
        <translation>Die Mittellinie vergessen und das Rohr auf dem Scan anklicken</translation>
    </message>
    <message>
        <source>Departures below this are nobody&apos;s bend; 0: what the noise tells</source>
        <translation>Abweichungen darunter sind keine Biegung; 0: was das Rauschen sagt</translation>
    </message>
    <message>
        <source>simpler, mm</source>
        <translation>einfacher, mm</translation>
    </message>
    <message>
        <source>Gaps as long as so many radii are bridged</source>
        <translation>Lücken von so vielen Radien werden überbrückt</translation>
    </message>
    <message>
        <source>bridge, radii</source>
        <translation>überbrücken, Radien</translation>
    </message>
    <message>
        <source>R, mm</source>
        <translation>R, mm</translation>
    </message>
    <message>
        <source>0: a solid bar</source>
        <translation>0: eine volle Stange</translation>
    </message>
    <message>
        <source>wall, mm</source>
        <translation>Wand, mm</translation>
    </message>
    <message>
        <source>Radius of the centre line at every bend; 0: each as it was read</source>
        <translation>Radius der Mittellinie an jeder Biegung; 0: jede, wie sie gelesen wurde</translation>
    </message>
    <message>
        <source>bends, mm</source>
        <translation>Biegungen, mm</translation>
    </message>
    <message>
        <source>add</source>
        <translation>hinzufügen</translation>
    </message>
    <message>
        <source>cut</source>
        <translation>abziehen</translation>
    </message>
    <message>
        <source>common</source>
        <translation>gemeinsam</translation>
    </message>
    <message>
        <source>new body</source>
        <translation>neuer Körper</translation>
    </message>
    <message>
        <source>as</source>
        <translation>als</translation>
    </message>
    <message>
        <source>Click the pipe on the scan.</source>
        <translation>Das Rohr auf dem Scan anklicken.</translation>
    </message>
    <message>
        <source>Click the pipe on the scan; on both sides of a gap where it has one. Or click a curve that it runs along.</source>
        <translation>Das Rohr auf dem Scan anklicken; zu beiden Seiten einer Lücke, wo es eine hat. Oder auf eine Kurve klicken, der es folgt.</translation>
    </message>
    <message>
        <source>following the pipe …</source>
        <translation>dem Rohr wird gefolgt …</translation>
    </message>
    <message>
        <source>, %1 long · RMS %2</source>
        <translation>, %1 lang · RMS %2</translation>
    </message>
    <message>
        <source>
scan: R %1</source>
        <translation>
Scan: R %1</translation>
    </message>
    <message>
        <source> (inside)</source>
        <translation> (innen)</translation>
    </message>
    <message>
        <source>
scan: bends %1</source>
        <translation>
Scan: Biegungen %1</translation>
    </message>
    <message>
        <source>
the bends differ</source>
        <translation>
die Biegungen sind verschieden</translation>
    </message>
    <message>
        <source>
bridged %1</source>
        <translation>
überbrückt %1</translation>
    </message>
    <message>
        <source>1 bend</source>
        <translation>1 Biegung</translation>
    </message>
    <message>
        <source>%1 bends</source>
        <translation>%1 Biegungen</translation>
    </message>
    <message>
        <source>along a curve</source>
        <translation>entlang einer Kurve</translation>
    </message>
    <message>
        <source>A pipe that is there: click where it has another radius, as a collar, a bead or a reduced end</source>
        <translation>Ein Rohr, das es schon gibt: anklicken, wo es einen anderen Radius hat, wie an einem Bund, einer Wulst oder einem verjüngten Ende</translation>
    </message>
    <message>
        <source>along</source>
        <translation>entlang</translation>
    </message>
    <message>
        <source>only a stretch of it</source>
        <translation>nur ein Stück davon</translation>
    </message>
    <message>
        <source>Along the centre line from its start; below 0 before it</source>
        <translation>An der Mittellinie entlang von ihrem Anfang; unter 0 davor</translation>
    </message>
    <message>
        <source>Along the centre line; more than its length goes straight on</source>
        <translation>An der Mittellinie entlang; mehr als ihre Länge geht geradeaus weiter</translation>
    </message>
    <message>
        <source>from, mm</source>
        <translation>von, mm</translation>
    </message>
    <message>
        <source>to, mm</source>
        <translation>bis, mm</translation>
    </message>
    <message>
        <source>the pipe that is clicked</source>
        <translation>das angeklickte Rohr</translation>
    </message>
    <message>
        <source>reading along the pipe …</source>
        <translation>am Rohr entlang wird abgelesen …</translation>
    </message>
    <message>
        <source>Click on the scan where the pipe has another radius.</source>
        <translation>Auf dem Scan anklicken, wo das Rohr einen anderen Radius hat.</translation>
    </message>
    <message>
        <source>%1 long · RMS %2
scan: R %3
from %4
to %5</source>
        <translation>%1 lang · RMS %2
Scan: R %3
von %4
bis %5</translation>
    </message>
</context>
<context>
    <name>lostline::app::PreferencesDialog</name>
    <message>
        <source>as the desktop</source>
        <translation>wie der Schreibtisch</translation>
    </message>
    <message>
        <source>Language</source>
        <translation>Sprache</translation>
    </message>
    <message>
        <source>In force at the next start</source>
        <translation>Gilt ab dem nächsten Start</translation>
    </message>
    <message>
        <source>language</source>
        <translation>Sprache</translation>
    </message>
    <message>
        <source>Preferences</source>
        <translation>Einstellungen</translation>
    </message>
    <message>
        <source>millimetres</source>
        <translation>Millimeter</translation>
    </message>
    <message>
        <source>inches</source>
        <translation>Zoll</translation>
    </message>
    <message>
        <source>Unit</source>
        <translation>Einheit</translation>
    </message>
    <message>
        <source>How lengths are shown and typed; files and projects stay in millimetres</source>
        <translation>Wie Längen gezeigt und eingetippt werden; Dateien und Projekte bleiben in Millimetern</translation>
    </message>
    <message>
        <source>unit</source>
        <translation>Einheit</translation>
    </message>
    <message>
        <source>light: ink on paper</source>
        <translation>hell: Tusche auf Papier</translation>
    </message>
    <message>
        <source>dark: ink on blueprint</source>
        <translation>dunkel: Tusche auf Blaupause</translation>
    </message>
    <message>
        <source>Sheet</source>
        <translation>Blatt</translation>
    </message>
    <message>
        <source>sheet</source>
        <translation>Blatt</translation>
    </message>
    <message>
        <source>Tolerance</source>
        <translation>Toleranz</translation>
    </message>
    <message>
        <source>tolerance of new projects ±, mm</source>
        <translation>Toleranz neuer Projekte ±, mm</translation>
    </message>
    <message>
        <source>Ends of the scale</source>
        <translation>Enden der Skala</translation>
    </message>
    <message>
        <source>ends of their scale ±, mm</source>
        <translation>Enden ihrer Skala ±, mm</translation>
    </message>
    <message>
        <source>The ends of the scale must lie beyond the tolerance.</source>
        <translation>Die Enden der Skala müssen jenseits der Toleranz liegen.</translation>
    </message>
    <message>
        <source>%1 % of it</source>
        <translation>%1 % davon</translation>
    </message>
    <message>
        <source>Size of text</source>
        <translation>Größe der Schrift</translation>
    </message>
    <message>
        <source>size of text</source>
        <translation>Größe der Schrift</translation>
    </message>
</context>
<context>
    <name>lostline::app::ProbeTool</name>
    <message>
        <source>Probe</source>
        <translation>Tasten</translation>
    </message>
    <message>
        <source>What is touched next; the instrument&apos;s own programme says it itself</source>
        <translation>Was als Nächstes angetastet wird; das eigene Programm des Geräts sagt es selbst</translation>
    </message>
    <message>
        <source>feature</source>
        <translation>Element</translation>
    </message>
    <message>
        <source>features</source>
        <translation>Elemente</translation>
    </message>
    <message>
        <source>Click a region of the scan to say that the chosen feature lies on it</source>
        <translation>Auf einen Bereich des Scans klicken: das gewählte Element liegt darauf</translation>
    </message>
    <message>
        <source>new</source>
        <translation>neu</translation>
    </message>
    <message>
        <source>A new feature of this kind</source>
        <translation>Ein neues Element dieser Art</translation>
    </message>
    <message>
        <source>touch</source>
        <translation>tasten</translation>
    </message>
    <message>
        <source>The next touch of the instrument&apos;s programme</source>
        <translation>Die nächste Antastung im Programm des Geräts</translation>
    </message>
    <message>
        <source>all</source>
        <translation>alle</translation>
    </message>
    <message>
        <source>The programme to its end</source>
        <translation>Das Programm bis zu seinem Ende</translation>
    </message>
    <message>
        <source>match with the scan</source>
        <translation>mit dem Scan zusammenbringen</translation>
    </message>
    <message>
        <source>Lay the probed features on the scan: by the pairs that were said, else all are matched with its regions</source>
        <translation>Die angetasteten Elemente auf den Scan legen: nach den genannten Paaren, sonst alle passend zu seinen Bereichen</translation>
    </message>
    <message>
        <source>Touch the part: by the instrument&apos;s programme, or, once matched, by clicking the scan.</source>
        <translation>Das Teil antasten: nach dem Programm des Geräts oder, wenn zusammengebracht, durch Klicken auf den Scan.</translation>
    </message>
    <message numerus="yes">
        <source>keep %n probed feature(s)</source>
        <translation>
            <numerusform>%n angetastetes Element behalten</numerusform>
            <numerusform>%n angetastete Elemente behalten</numerusform>
        </translation>
    </message>
    <message>
        <source>Choose a feature of the list, or begin a new one.</source>
        <translation>Ein Element der Liste wählen oder ein neues beginnen.</translation>
    </message>
    <message>
        <source>The probe met nothing there.</source>
        <translation>Der Taster hat dort nichts getroffen.</translation>
    </message>
    <message>
        <source>Open the scan first: probed features are laid on it.</source>
        <translation>Zuerst den Scan öffnen: angetastete Elemente werden auf ihn gelegt.</translation>
    </message>
    <message>
        <source>Split the scan into regions first (Survey, Regions).</source>
        <translation>Zuerst den Scan in Bereiche teilen (Aufnahme, Bereiche).</translation>
    </message>
    <message>
        <source>matching …</source>
        <translation>wird zusammengebracht …</translation>
    </message>
    <message>
        <source>%1: touches %2</source>
        <translation>%1: Antastungen %2</translation>
    </message>
    <message>
        <source>, form %1</source>
        <translation>, Form %1</translation>
    </message>
    <message>
        <source>width %1</source>
        <translation>Breite %1</translation>
    </message>
    <message>
        <source>
matched: RMS %1</source>
        <translation>
zusammengebracht: RMS %1</translation>
    </message>
    <message>
        <source>, the best of %1 ways that the part lies alike</source>
        <translation>, die beste von %1 Lagen, in denen das Teil gleich liegt</translation>
    </message>
    <message>
        <source>
The programme is at its end.</source>
        <translation>
Das Programm ist zu Ende.</translation>
    </message>
    <message>
        <source>form %1, U along %2, U of direction %3°</source>
        <translation>Form %1, U längs %2, U der Richtung %3°</translation>
    </message>
</context>
<context>
    <name>lostline::app::QualityTool</name>
    <message>
        <source>Quality</source>
        <translation>Güte</translation>
    </message>
    <message>
        <source>Receive</source>
        <translation>Eingang</translation>
    </message>
    <message>
        <source>noise</source>
        <translation>Rauschen</translation>
    </message>
    <message>
        <source>spacing (coverage)</source>
        <translation>Punktabstand (Abdeckung)</translation>
    </message>
    <message>
        <source>show</source>
        <translation>zeigen</translation>
    </message>
    <message>
        <source>looking at every place …</source>
        <translation>jede Stelle wird betrachtet …</translation>
    </message>
    <message>
        <source>The scan is too small to tell.</source>
        <translation>Der Scan ist zu klein, um es zu sagen.</translation>
    </message>
    <message>
        <source>noisier</source>
        <translation>rauer</translation>
    </message>
    <message>
        <source>sparser</source>
        <translation>dünner</translation>
    </message>
    <message>
        <source>smoother</source>
        <translation>ruhiger</translation>
    </message>
    <message>
        <source>denser</source>
        <translation>dichter</translation>
    </message>
    <message>
        <source>typical %1 %5; nine tenths below %2
%3 % of the points above twice that
open borders %4 %5, in red</source>
        <translation>üblich %1 %5; neun Zehntel unter %2
%3 % der Punkte über dem Doppelten
offene Ränder %4 %5, rot</translation>
    </message>
</context>
<context>
    <name>lostline::app::Rail</name>
    <message>
        <source>%1 (Ctrl+%2)</source>
        <translation>%1 (Strg+%2)</translation>
    </message>
    <message>
        <source>Open</source>
        <translation>Öffnen</translation>
    </message>
    <message>
        <source>Open a scan or project (Ctrl+O)</source>
        <translation>Einen Scan oder ein Projekt öffnen (Strg+O)</translation>
    </message>
    <message>
        <source>A list of tools</source>
        <translation>Eine Liste von Werkzeugen</translation>
    </message>
    <message>
        <source>%1, work waits here</source>
        <translation>%1, hier wartet Arbeit</translation>
    </message>
    <message>
        <source>%1
Waits with work that is not kept: click to go on with it</source>
        <translation>%1
Wartet mit Arbeit, die nicht übernommen ist: klicken, um weiterzumachen</translation>
    </message>
</context>
<context>
    <name>lostline::app::RecoveryNotice</name>
    <message>
        <source>Not saved when the program ended</source>
        <translation>Beim Programmende nicht gesichert</translation>
    </message>
    <message>
        <source>%1, %2</source>
        <translation>%1, %2</translation>
    </message>
    <message>
        <source>Unsaved changes of %1</source>
        <translation>Ungesicherte Änderungen an %1</translation>
    </message>
    <message>
        <source>Recover</source>
        <translation>Wiederherstellen</translation>
    </message>
    <message>
        <source>Recover %1</source>
        <translation>%1 wiederherstellen</translation>
    </message>
    <message>
        <source>Throw away</source>
        <translation>Wegwerfen</translation>
    </message>
    <message>
        <source>Throw away %1</source>
        <translation>%1 wegwerfen</translation>
    </message>
</context>
<context>
    <name>lostline::app::ReferenceField</name>
    <message>
        <source>Choose a datum, or click a face, region or fit on the Bench or in Evidence</source>
        <translation>Einen Bezug wählen, oder eine Fläche, einen Bereich oder ein Ausgleichselement auf der Werkbank oder im Befund anklicken</translation>
    </message>
    <message>
        <source>click a face or fit</source>
        <translation>Fläche oder Element anklicken</translation>
    </message>
    <message>
        <source>datum x axis</source>
        <translation>x-Achse des Bezugs</translation>
    </message>
    <message>
        <source>datum y axis</source>
        <translation>y-Achse des Bezugs</translation>
    </message>
    <message>
        <source>datum z axis</source>
        <translation>z-Achse des Bezugs</translation>
    </message>
    <message>
        <source>datum yz plane</source>
        <translation>yz-Ebene des Bezugs</translation>
    </message>
    <message>
        <source>datum xz plane</source>
        <translation>xz-Ebene des Bezugs</translation>
    </message>
    <message>
        <source>datum xy plane</source>
        <translation>xy-Ebene des Bezugs</translation>
    </message>
    <message>
        <source>face %1</source>
        <translation>Fläche %1</translation>
    </message>
</context>
<context>
    <name>lostline::app::RegionsStepTool</name>
    <message>
        <source>From regions</source>
        <translation>Aus Bereichen</translation>
    </message>
    <message>
        <source>extrude</source>
        <translation>extrudieren</translation>
    </message>
    <message>
        <source>revolve</source>
        <translation>rotieren</translation>
    </message>
    <message>
        <source>make</source>
        <translation>machen</translation>
    </message>
    <message>
        <source>click regions</source>
        <translation>Bereiche anklicken</translation>
    </message>
    <message>
        <source>from</source>
        <translation>aus</translation>
    </message>
    <message>
        <source>tolerance, mm</source>
        <translation>Toleranz, mm</translation>
    </message>
    <message>
        <source>with the suggested constraints</source>
        <translation>mit den vorgeschlagenen Bedingungen</translation>
    </message>
    <message>
        <source>step %1</source>
        <translation>Schritt %1</translation>
    </message>
    <message>
        <source>Click regions of the scan: the walls, and an end if wanted.</source>
        <translation>Bereiche des Scans anklicken: die Wände und, wenn gewollt, ein Ende.</translation>
    </message>
    <message>
        <source>%1 from regions</source>
        <translation>%1 aus Bereichen</translation>
    </message>
    <message>
        <source>Click the walls of one profile, and its ends if wanted.</source>
        <translation>Die Wände eines Profils anklicken und, wenn gewollt, seine Enden.</translation>
    </message>
    <message>
        <source>Click a round face of what was turned.</source>
        <translation>Eine runde Fläche des Gedrehten anklicken.</translation>
    </message>
    <message>
        <source>
scan: %1 %2</source>
        <translation>
Scan: %1 %2</translation>
    </message>
    <message>
        <source>Larger is simpler: departures below this are nobody&apos;s intent; 0: as the scan asks</source>
        <translation>Größer ist einfacher: Abweichungen darunter sind niemandes Absicht; 0: wie der Scan es verlangt</translation>
    </message>
    <message>
        <source>Give the step a name.</source>
        <translation>Dem Schritt einen Namen geben.</translation>
    </message>
</context>
<context>
    <name>lostline::app::RegionsTool</name>
    <message>
        <source>Regions</source>
        <translation>Bereiche</translation>
    </message>
    <message>
        <source>Survey</source>
        <translation>Aufnahme</translation>
    </message>
    <message>
        <source>Smaller faces become regions of their own further right</source>
        <translation>Weiter rechts werden kleinere Flächen eigene Bereiche</translation>
    </message>
    <message>
        <source>smallest face</source>
        <translation>kleinste Fläche</translation>
    </message>
    <message>
        <source>Split  ⏎</source>
        <translation>Teilen  ⏎</translation>
    </message>
    <message>
        <source>split into regions</source>
        <translation>in Bereiche teilen</translation>
    </message>
    <message>
        <source>split into %1 regions</source>
        <translation>in %1 Bereiche teilen</translation>
    </message>
    <message>
        <source>Regions down to %1 (%2 % of the surface).</source>
        <translation>Bereiche bis hinab zu %1 (%2 % der Oberfläche).</translation>
    </message>
    <message>
        <source>
Splitting …</source>
        <translation>
Wird geteilt …</translation>
    </message>
    <message>
        <source>
%1 regions, %2 with a fit, %3 patterns; %4 % of the surface in none.</source>
        <translation>
%1 Bereiche, %2 mit Ausgleich, %3 Anordnungen; %4 % der Oberfläche in keinem.</translation>
    </message>
</context>
<context>
    <name>lostline::app::RelateTool</name>
    <message>
        <source>Relate</source>
        <translation>Beziehungen</translation>
    </message>
    <message>
        <source>Survey</source>
        <translation>Aufnahme</translation>
    </message>
    <message>
        <source>relation</source>
        <translation>Beziehung</translation>
    </message>
    <message>
        <source>pick the fits</source>
        <translation>die Elemente wählen</translation>
    </message>
    <message>
        <source>members</source>
        <translation>Glieder</translation>
    </message>
    <message>
        <source>fits</source>
        <translation>Elemente</translation>
    </message>
    <message>
        <source>value</source>
        <translation>Wert</translation>
    </message>
    <message>
        <source>the second stays as it is</source>
        <translation>das zweite bleibt, wie es ist</translation>
    </message>
    <message>
        <source>Only the first gives way; a region always stays</source>
        <translation>Nur das erste gibt nach; ein Bereich bleibt immer</translation>
    </message>
    <message>
        <source>add</source>
        <translation>hinzufügen</translation>
    </message>
    <message>
        <source>Impose this relation with the others</source>
        <translation>Diese Beziehung mit den anderen auferlegen</translation>
    </message>
    <message>
        <source>take back</source>
        <translation>zurücknehmen</translation>
    </message>
    <message>
        <source>Take back the relation chosen in the list</source>
        <translation>Die in der Liste gewählte Beziehung zurücknehmen</translation>
    </message>
    <message>
        <source>Relations</source>
        <translation>Beziehungen</translation>
    </message>
    <message>
        <source>Every relation with its cost and what the part says</source>
        <translation>Jede Beziehung mit ihren Kosten und dem, was das Teil sagt</translation>
    </message>
    <message>
        <source>Click two regions or fits, choose their relation, add it.</source>
        <translation>Zwei Bereiche oder Elemente anklicken, ihre Beziehung wählen, hinzufügen.</translation>
    </message>
    <message numerus="yes">
        <source>%n relation(s)</source>
        <translation>
            <numerusform>%n Beziehung</numerusform>
            <numerusform>%n Beziehungen</numerusform>
        </translation>
    </message>
    <message>
        <source>value, °</source>
        <translation>Wert, °</translation>
    </message>
    <message>
        <source>value, mm</source>
        <translation>Wert, mm</translation>
    </message>
    <message numerus="yes">
        <source>Pick %n fit(s) first.</source>
        <translation>
            <numerusform>Erst %n Element wählen.</numerusform>
            <numerusform>Erst %n Elemente wählen.</numerusform>
        </translation>
    </message>
    <message>
        <source>Choose a relation in the list first.</source>
        <translation>Erst eine Beziehung in der Liste wählen.</translation>
    </message>
    <message>
        <source>No relations: every fit is what the evidence says.</source>
        <translation>Keine Beziehungen: jedes Element ist, was der Befund sagt.</translation>
    </message>
    <message>
        <source>None departs by what matters: the part was meant so, or cannot tell.</source>
        <translation>Keine weicht nennenswert ab: das Teil war so gemeint oder kann es nicht sagen.</translation>
    </message>
    <message numerus="yes">
        <source>The part disagrees with %n of them.</source>
        <translation>
            <numerusform>Das Teil widerspricht %n davon.</numerusform>
            <numerusform>Das Teil widerspricht %n davon.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>lostline::app::RepaintTool</name>
    <message>
        <source>Repaint</source>
        <translation>Umfärben</translation>
    </message>
    <message>
        <source>Survey</source>
        <translation>Aufnahme</translation>
    </message>
    <message>
        <source>picks regions</source>
        <translation>wählt Bereiche</translation>
    </message>
    <message>
        <source>splits by a line</source>
        <translation>teilt durch eine Linie</translation>
    </message>
    <message>
        <source>paints the picked region</source>
        <translation>malt den gewählten Bereich</translation>
    </message>
    <message>
        <source>paints a new region</source>
        <translation>malt einen neuen Bereich</translation>
    </message>
    <message>
        <source>What the mouse does on the scan</source>
        <translation>Was die Maus auf dem Scan tut</translation>
    </message>
    <message>
        <source>the mouse</source>
        <translation>die Maus</translation>
    </message>
    <message>
        <source>brush, mm</source>
        <translation>Pinsel, mm</translation>
    </message>
    <message>
        <source>merge</source>
        <translation>vereinen</translation>
    </message>
    <message>
        <source>Join the picked regions into the first</source>
        <translation>Die gewählten Bereiche mit dem ersten vereinen</translation>
    </message>
    <message>
        <source>grow</source>
        <translation>mehr</translation>
    </message>
    <message>
        <source>One ring of triangles more</source>
        <translation>Ein Ring Dreiecke mehr</translation>
    </message>
    <message>
        <source>shrink</source>
        <translation>weniger</translation>
    </message>
    <message>
        <source>One ring of triangles less</source>
        <translation>Ein Ring Dreiecke weniger</translation>
    </message>
    <message>
        <source>split again</source>
        <translation>neu teilen</translation>
    </message>
    <message>
        <source>Look for smaller faces in the picked regions only</source>
        <translation>Nur in den gewählten Bereichen nach kleineren Flächen suchen</translation>
    </message>
    <message>
        <source>lock</source>
        <translation>sperren</translation>
    </message>
    <message>
        <source>Locked regions stay as they are, whatever is painted near them</source>
        <translation>Gesperrte Bereiche bleiben, was auch daneben gemalt wird</translation>
    </message>
    <message>
        <source>Say what finish the picked regions have; their trust goes with it</source>
        <translation>Angeben, welche Oberfläche die gewählten Bereiche haben; ihre Güte folgt</translation>
    </message>
    <message>
        <source>finish</source>
        <translation>Oberfläche</translation>
    </message>
    <message>
        <source> (RMS %1)</source>
        <translation> (RMS %1)</translation>
    </message>
    <message>
        <source>, locked</source>
        <translation>, gesperrt</translation>
    </message>
    <message>
        <source>Drag a line across a region.</source>
        <translation>Eine Linie über einen Bereich ziehen.</translation>
    </message>
    <message>
        <source>Drag over what belongs to it.</source>
        <translation>Über das ziehen, was dazugehört.</translation>
    </message>
    <message>
        <source>Drag over what is a face of its own.</source>
        <translation>Über das ziehen, was eine eigene Fläche ist.</translation>
    </message>
    <message>
        <source>Click regions.</source>
        <translation>Bereiche anklicken.</translation>
    </message>
    <message>
        <source>merge regions</source>
        <translation>Bereiche vereinen</translation>
    </message>
    <message>
        <source>Click a region first.</source>
        <translation>Erst einen Bereich anklicken.</translation>
    </message>
    <message numerus="yes">
        <source>finish of %n region(s)</source>
        <translation>
            <numerusform>Oberfläche von %n Bereich</numerusform>
            <numerusform>Oberfläche von %n Bereichen</numerusform>
        </translation>
    </message>
    <message>
        <source>grow a region</source>
        <translation>einen Bereich wachsen lassen</translation>
    </message>
    <message>
        <source>shrink a region</source>
        <translation>einen Bereich schrumpfen lassen</translation>
    </message>
    <message>
        <source>Click the regions to split again first.</source>
        <translation>Erst die neu zu teilenden Bereiche anklicken.</translation>
    </message>
    <message>
        <source>Click the regions to lock first.</source>
        <translation>Erst die zu sperrenden Bereiche anklicken.</translation>
    </message>
    <message>
        <source>lock regions</source>
        <translation>Bereiche sperren</translation>
    </message>
    <message>
        <source>unlock regions</source>
        <translation>Bereiche entsperren</translation>
    </message>
    <message>
        <source>The line crosses no region.</source>
        <translation>Die Linie kreuzt keinen Bereich.</translation>
    </message>
    <message>
        <source>split region %1</source>
        <translation>Bereich %1 teilen</translation>
    </message>
    <message>
        <source>Pick the region first, then paint what belongs to it.</source>
        <translation>Erst den Bereich wählen, dann malen, was dazugehört.</translation>
    </message>
    <message>
        <source>paint a region</source>
        <translation>einen Bereich malen</translation>
    </message>
    <message>
        <source>repaint region %1</source>
        <translation>Bereich %1 umfärben</translation>
    </message>
</context>
<context>
    <name>lostline::app::RepeatTool</name>
    <message>
        <source>The step whose material or cut is repeated; click it in the Route</source>
        <translation>Der Schritt, dessen Werkstoff oder Ausschnitt wiederholt wird; im Arbeitsplan anklicken</translation>
    </message>
    <message>
        <source>%1 cm³ after this step</source>
        <translation>%1 cm³ nach diesem Schritt</translation>
    </message>
</context>
<context>
    <name>lostline::app::RevolveTool</name>
    <message>
        <source>Revolve</source>
        <translation>Drehung</translation>
    </message>
    <message>
        <source>turned %1</source>
        <translation>gedreht %1</translation>
    </message>
    <message>
        <source>upright through origin</source>
        <translation>aufrecht durch den Ursprung</translation>
    </message>
    <message>
        <source>level through origin</source>
        <translation>waagrecht durch den Ursprung</translation>
    </message>
    <message>
        <source>click a line</source>
        <translation>eine Linie anklicken</translation>
    </message>
    <message>
        <source>What the areas are turned about</source>
        <translation>Worum die Flächen gedreht werden</translation>
    </message>
    <message>
        <source>axis</source>
        <translation>Achse</translation>
    </message>
    <message>
        <source>add</source>
        <translation>hinzufügen</translation>
    </message>
    <message>
        <source>cut</source>
        <translation>abziehen</translation>
    </message>
    <message>
        <source>keep in common</source>
        <translation>Gemeinsames behalten</translation>
    </message>
    <message>
        <source>new body</source>
        <translation>neuer Körper</translation>
    </message>
    <message>
        <source>material</source>
        <translation>Werkstoff</translation>
    </message>
    <message>
        <source>angle, °</source>
        <translation>Winkel, °</translation>
    </message>
    <message>
        <source>half to either side of the sketch</source>
        <translation>je zur Hälfte zu beiden Seiten der Skizze</translation>
    </message>
    <message>
        <source>There is no sketch yet. Take a section in Trace first.</source>
        <translation>Es gibt noch keine Skizze. Erst unter Zeichnen einen Schnitt legen.</translation>
    </message>
    <message>
        <source>Click the line that is the axis.</source>
        <translation>Die Linie anklicken, die die Achse ist.</translation>
    </message>
    <message>
        <source>Click an outline of the sketch, or inside an area.</source>
        <translation>Einen Umriss der Skizze oder in eine Fläche klicken.</translation>
    </message>
    <message>
        <source>%1 cm³ after this step</source>
        <translation>%1 cm³ nach diesem Schritt</translation>
    </message>
</context>
<context>
    <name>lostline::app::RoutePanel</name>
    <message>
        <source>Route</source>
        <translation>Arbeitsplan</translation>
    </message>
    <message>
        <source>The steps that build the part will be listed here. Trace a sketch, then extrude it in Build.</source>
        <translation>Die Schritte, die das Teil aufbauen, stehen hier. Eine Skizze zeichnen und im Aufbau extrudieren.</translation>
    </message>
    <message>
        <source>Double-click or Return to edit a step; drag it to another place; P parks it, I inserts after it, Ctrl+Up and Ctrl+Down move it, F2 renames it, Del removes it</source>
        <translation>Doppelklick oder Eingabe ändert einen Schritt; ziehen bringt ihn an einen anderen Platz; P legt ihn still, I fügt dahinter ein, Strg+Auf und Strg+Ab verschieben, F2 benennt um, Entf entfernt</translation>
    </message>
    <message>
        <source>move step %1</source>
        <translation>Schritt %1 verschieben</translation>
    </message>
    <message>
        <source>Edit</source>
        <translation>Ändern</translation>
    </message>
    <message>
        <source>Park or take up</source>
        <translation>Stilllegen oder aufnehmen</translation>
    </message>
    <message>
        <source>take up %1</source>
        <translation>%1 aufnehmen</translation>
    </message>
    <message>
        <source>park %1</source>
        <translation>%1 stilllegen</translation>
    </message>
    <message>
        <source>Insert new steps after this one, or at the end</source>
        <translation>Neue Schritte hinter diesem einfügen, oder am Ende</translation>
    </message>
    <message>
        <source>Earlier</source>
        <translation>Früher</translation>
    </message>
    <message>
        <source>Later</source>
        <translation>Später</translation>
    </message>
    <message>
        <source>Rename …</source>
        <translation>Umbenennen …</translation>
    </message>
    <message>
        <source>Rename step %1</source>
        <translation>Schritt %1 umbenennen</translation>
    </message>
    <message>
        <source>name</source>
        <translation>Name</translation>
    </message>
    <message>
        <source>rename step</source>
        <translation>Schritt umbenennen</translation>
    </message>
    <message>
        <source>Remove</source>
        <translation>Entfernen</translation>
    </message>
    <message>
        <source>remove step %1</source>
        <translation>Schritt %1 entfernen</translation>
    </message>
    <message>
        <source>step %1, %2, %3</source>
        <translation>Schritt %1, %2, %3</translation>
    </message>
    <message>
        <source>%1 sound</source>
        <translation>%1 in Ordnung</translation>
    </message>
    <message>
        <source> · %1 broken</source>
        <translation> · %1 fehlerhaft</translation>
    </message>
    <message>
        <source>folded</source>
        <translation>gefaltet</translation>
    </message>
    <message>
        <source>open</source>
        <translation>offen</translation>
    </message>
    <message>
        <source>%1 × %2</source>
        <translation>%1 × %2</translation>
    </message>
    <message>
        <source>%1 broken</source>
        <translation>%1 gebrochen</translation>
    </message>
</context>
<context>
    <name>lostline::app::ScaleTool</name>
    <message>
        <source>Scale</source>
        <translation>Maßstab</translation>
    </message>
    <message>
        <source>Receive</source>
        <translation>Eingang</translation>
    </message>
    <message>
        <source>true length, mm</source>
        <translation>wahre Länge, mm</translation>
    </message>
    <message>
        <source>scale by %1</source>
        <translation>um %1 skalieren</translation>
    </message>
    <message>
        <source>Click the two ends of a length that you know.</source>
        <translation>Die beiden Enden einer bekannten Länge anklicken.</translation>
    </message>
    <message>
        <source>The two places are one. Click another end.</source>
        <translation>Die beiden Stellen sind eine. Ein anderes Ende anklicken.</translation>
    </message>
    <message>
        <source>The scan says %1 %3; the scan will be scaled by %2.</source>
        <translation>Der Scan sagt %1 %3; er wird um %2 skaliert.</translation>
    </message>
</context>
<context>
    <name>lostline::app::ScannerTool</name>
    <message>
        <source>Scanner</source>
        <translation>Scanner</translation>
    </message>
    <message>
        <source>cut the table away</source>
        <translation>den Tisch wegschneiden</translation>
    </message>
    <message>
        <source>A plane that everything stands on and that reaches beyond it</source>
        <translation>Eine Ebene, auf der alles steht und die darüber hinausreicht</translation>
    </message>
    <message>
        <source>Spacings over which noise is averaged when the points are meshed</source>
        <translation>Punktabstände, über die beim Vernetzen das Rauschen gemittelt wird</translation>
    </message>
    <message>
        <source>averaged over</source>
        <translation>gemittelt über</translation>
    </message>
    <message>
        <source>scan</source>
        <translation>Scan</translation>
    </message>
    <message>
        <source>Take the views one after another, from the first one</source>
        <translation>Die Ansichten nacheinander aufnehmen, von der ersten an</translation>
    </message>
    <message>
        <source>enough</source>
        <translation>genug</translation>
    </message>
    <message>
        <source>Stop after the present view</source>
        <translation>Nach der jetzigen Ansicht aufhören</translation>
    </message>
    <message>
        <source>Press scan. The points appear as they come, borders that no view has closed yet in red.</source>
        <translation>„scannen“ drücken. Die Punkte erscheinen, wie sie kommen; Ränder, die noch keine Ansicht geschlossen hat, in Rot.</translation>
    </message>
    <message>
        <source>scan by instrument</source>
        <translation>Scan vom Gerät</translation>
    </message>
    <message>
        <source>scanning …</source>
        <translation>wird gescannt …</translation>
    </message>
    <message>
        <source>%1 points, views: %2</source>
        <translation>%1 Punkte, Ansichten: %2</translation>
    </message>
    <message>
        <source>
seen so far: %1 cm²</source>
        <translation>
bisher gesehen: %1 cm²</translation>
    </message>
    <message>
        <source>
still open: %1 borders, %2 mm together</source>
        <translation>
noch offen: %1 Ränder, zusammen %2 mm</translation>
    </message>
    <message>
        <source>
the table is found and will be cut away</source>
        <translation>
der Tisch ist gefunden und wird weggeschnitten</translation>
    </message>
    <message>
        <source>
no table found</source>
        <translation>
kein Tisch gefunden</translation>
    </message>
    <message>
        <source>preparing the points for the Bench</source>
        <translation>die Punkte werden für die Werkbank vorbereitet</translation>
    </message>
</context>
<context>
    <name>lostline::app::SearchBox</name>
    <message>
        <source>search tools and values</source>
        <translation>Werkzeuge und Werte suchen</translation>
    </message>
    <message>
        <source>Search tools and values</source>
        <translation>Werkzeuge und Werte suchen</translation>
    </message>
    <message>
        <source>Tools, Ledger rows and steps by name (Ctrl+F)</source>
        <translation>Werkzeuge, Zeilen im Maßbuch und Schritte nach Namen (Strg+F)</translation>
    </message>
    <message>
        <source>%1 (%2)</source>
        <translation>%1 (%2)</translation>
    </message>
    <message>
        <source>%1 = %2</source>
        <translation>%1 = %2</translation>
    </message>
    <message>
        <source>step %1 %2</source>
        <translation>Schritt %1 %2</translation>
    </message>
</context>
<context>
    <name>lostline::app::SectionFollow</name>
    <message>
        <source>%1 · RMS %2 · greatest %3</source>
        <translation>%1 · RMS %2 · größte %3</translation>
    </message>
</context>
<context>
    <name>lostline::app::SectionPlot</name>
    <message>
        <source>Section with drift</source>
        <translation>Schnitt mit Abweichung</translation>
    </message>
    <message>
        <source>The wheel zooms, a drag pans, a double click shows all of it</source>
        <translation>Das Rad zoomt, Ziehen schiebt, ein Doppelklick zeigt alles</translation>
    </message>
    <message>
        <source>whiskers × %1</source>
        <translation>Nadeln × %1</translation>
    </message>
</context>
<context>
    <name>lostline::app::SectionTool</name>
    <message>
        <source>Section</source>
        <translation>Schnitt</translation>
    </message>
    <message>
        <source>Trace</source>
        <translation>Zeichnen</translation>
    </message>
    <message>
        <source>xy plane</source>
        <translation>xy-Ebene</translation>
    </message>
    <message>
        <source>xz plane</source>
        <translation>xz-Ebene</translation>
    </message>
    <message>
        <source>yz plane</source>
        <translation>yz-Ebene</translation>
    </message>
    <message>
        <source>on a face or fit</source>
        <translation>auf Fläche oder Element</translation>
    </message>
    <message>
        <source>turn about an axis</source>
        <translation>Halbebene um eine Achse</translation>
    </message>
    <message>
        <source>fan about an axis</source>
        <translation>Fächer um eine Achse</translation>
    </message>
    <message>
        <source>cut by</source>
        <translation>Schnitt durch</translation>
    </message>
    <message>
        <source>on</source>
        <translation>auf</translation>
    </message>
    <message>
        <source>about</source>
        <translation>um</translation>
    </message>
    <message>
        <source>angle, °</source>
        <translation>Winkel, °</translation>
    </message>
    <message>
        <source>Distance from the plane; drag on the Bench or use the arrow keys</source>
        <translation>Abstand von der Ebene; auf der Werkbank ziehen oder Pfeiltasten</translation>
    </message>
    <message>
        <source>offset, mm</source>
        <translation>Abstand, mm</translation>
    </message>
    <message>
        <source>tolerance, mm</source>
        <translation>Toleranz, mm</translation>
    </message>
    <message>
        <source>with the suggested constraints</source>
        <translation>mit den vorgeschlagenen Bedingungen</translation>
    </message>
    <message>
        <source>Tangent, level, upright, equal … where the section is within tolerance of it</source>
        <translation>Tangential, waagrecht, senkrecht, gleich … wo der Schnitt innerhalb der Toleranz so ist</translation>
    </message>
    <message>
        <source>Nothing to keep: the plane misses the scan, or the tolerance resolves nothing. Move the plane.</source>
        <translation>Nichts zu übernehmen: die Ebene trifft den Scan nicht, oder die Toleranz löst nichts auf. Die Ebene verschieben.</translation>
    </message>
    <message>
        <source>section %1</source>
        <translation>Schnitt %1</translation>
    </message>
    <message>
        <source>Click a flat face of the model, or a plane of the scan.</source>
        <translation>Eine ebene Fläche des Modells oder eine Ebene des Scans anklicken.</translation>
    </message>
    <message>
        <source>Section %1</source>
        <translation>Schnitt %1</translation>
    </message>
    <message>
        <source>%1 %2%3</source>
        <translation>%1 %2%3</translation>
    </message>
    <message>
        <source>s</source>
        <translation>s</translation>
    </message>
    <message>
        <source>The plane misses the scan.</source>
        <translation>Die Ebene trifft den Scan nicht.</translation>
    </message>
    <message>
        <source>%1 outlines, %2 gaps: %3
RMS %4 · greatest %5</source>
        <translation>%1 Umrisse, %2 Lücken: %3
RMS %4 · größte %5</translation>
    </message>
    <message>
        <source>no curves</source>
        <translation>keine Kurven</translation>
    </message>
    <message>
        <source>, </source>
        <translation>, </translation>
    </message>
    <message>
        <source>Outline</source>
        <translation>Umriss</translation>
    </message>
    <message>
        <source>z axis</source>
        <translation>z-Achse</translation>
    </message>
    <message>
        <source>y axis</source>
        <translation>y-Achse</translation>
    </message>
    <message>
        <source>x axis</source>
        <translation>x-Achse</translation>
    </message>
    <message>
        <source>normal of a face or fit</source>
        <translation>Normale einer Fläche</translation>
    </message>
    <message>
        <source>through three points</source>
        <translation>durch drei Punkte</translation>
    </message>
    <message>
        <source>seen along</source>
        <translation>gesehen längs</translation>
    </message>
    <message>
        <source>So far outside of the silhouette; minus inside</source>
        <translation>So weit außerhalb der Silhouette; minus innen</translation>
    </message>
    <message>
        <source>Turns the plane about its own x axis</source>
        <translation>Dreht die Ebene um ihre eigene x-Achse</translation>
    </message>
    <message>
        <source>tilt x, °</source>
        <translation>Neigung x, °</translation>
    </message>
    <message>
        <source>Turns the plane about its own y axis</source>
        <translation>Dreht die Ebene um ihre eigene y-Achse</translation>
    </message>
    <message>
        <source>tilt y, °</source>
        <translation>Neigung y, °</translation>
    </message>
    <message>
        <source>none</source>
        <translation>keine</translation>
    </message>
    <message>
        <source>Further offsets whose sections are gathered on this plane, with blanks between</source>
        <translation>Weitere Abstände, deren Schnitte auf dieser Ebene gesammelt werden, mit Leerzeichen getrennt</translation>
    </message>
    <message>
        <source>and at, mm</source>
        <translation>und bei, mm</translation>
    </message>
    <message>
        <source>outwards, mm</source>
        <translation>nach außen, mm</translation>
    </message>
    <message>
        <source>with its openings</source>
        <translation>mit seinen Öffnungen</translation>
    </message>
    <message>
        <source>What can be looked through</source>
        <translation>Wodurch man sehen kann</translation>
    </message>
    <message>
        <source>Departures below this are nobody&apos;s intent; what the noise explains is left out anyway</source>
        <translation>Abweichungen darunter hat niemand gemeint; was das Rauschen erklärt, bleibt ohnehin weg</translation>
    </message>
    <message>
        <source>The plane runs through rounds, chamfers, edges or gaps: an outline that no wall has. This is the nearest level without them</source>
        <translation>Die Ebene läuft durch Rundungen, Fasen, Kanten oder Lücken: ein Umriss, den keine Wand hat. Das ist die nächste Höhe ohne sie</translation>
    </message>
    <message>
        <source>Click three places of the scan: %1 of 3.</source>
        <translation>Drei Stellen des Scans anklicken: %1 von 3.</translation>
    </message>
    <message>
        <source>cut at %1, through walls only</source>
        <translation>bei %1 schneiden, nur durch Wände</translation>
    </message>
    <message>
        <source>Nothing of the outline is left so far inside.</source>
        <translation>So weit innen bleibt vom Umriss nichts.</translation>
    </message>
    <message>
        <source>%1 × %2</source>
        <translation>%1 × %2</translation>
    </message>
    <message>
        <source>
spread of the blades %1</source>
        <translation>
Streuung der Blätter %1</translation>
    </message>
    <message numerus="yes">
        <source>
seen by few blades, left out: %n run(s)</source>
        <translation>
            <numerusform>
von wenigen Blättern gesehen, weggelassen: %n Zug</numerusform>
            <numerusform>
von wenigen Blättern gesehen, weggelassen: %n Züge</numerusform>
        </translation>
    </message>
    <message>
        <source>
shapes: %1</source>
        <translation>
Formen: %1</translation>
    </message>
    <message>
        <source>all of it</source>
        <translation>ganz</translation>
    </message>
    <message>
        <source>picked regions</source>
        <translation>gewählte Bereiche</translation>
    </message>
    <message>
        <source>with those beside</source>
        <translation>mit denen daneben</translation>
    </message>
    <message>
        <source>What is cut: the whole scan, only regions that are clicked, or the scans beside too</source>
        <translation>Was geschnitten wird: der ganze Scan, nur angeklickte Bereiche oder auch die Scans daneben</translation>
    </message>
    <message>
        <source>scan</source>
        <translation>Scan</translation>
    </message>
    <message>
        <source>Click the regions of the scan that are to be cut.</source>
        <translation>Die Bereiche des Scans anklicken, die geschnitten werden.</translation>
    </message>
    <message>
        <source>cut at %1 instead</source>
        <translation>stattdessen bei %1 schneiden</translation>
    </message>
    <message>
        <source>At %1 the plane runs along a face of the scan: the cut follows its noise, in %2 runs.</source>
        <translation>Bei %1 verläuft die Ebene in einer Fläche des Scans: der Schnitt folgt ihrem Rauschen, in %2 Zügen.</translation>
    </message>
</context>
<context>
    <name>lostline::app::Session</name>
    <message>
        <source>recover unsaved work</source>
        <translation>ungesicherte Arbeit wiederherstellen</translation>
    </message>
    <message>
        <source>computing the Route</source>
        <translation>Arbeitsplan wird berechnet</translation>
    </message>
    <message>
        <source>The Route was stopped: what is shown may be older than its values. Edit, Recompute the model (F5) goes on.</source>
        <translation>Der Arbeitsplan wurde angehalten: das Gezeigte kann älter sein als seine Werte. Bearbeiten, Modell neu berechnen (F5) macht weiter.</translation>
    </message>
</context>
<context>
    <name>lostline::app::SketchPen</name>
    <message>
        <source>%1: %2</source>
        <translation>%1: %2</translation>
    </message>
</context>
<context>
    <name>lostline::app::SketchTool</name>
    <message>
        <source>Sketch</source>
        <translation>Skizze</translation>
    </message>
    <message>
        <source>trim</source>
        <translation>stutzen</translation>
    </message>
    <message>
        <source>Take away stretches between crossings (G t)</source>
        <translation>Stücke zwischen Kreuzungen wegnehmen (G t)</translation>
    </message>
    <message>
        <source>extend</source>
        <translation>verlängern</translation>
    </message>
    <message>
        <source>Lengthen ends to the next curve (G e)</source>
        <translation>Enden bis zur nächsten Kurve verlängern (G e)</translation>
    </message>
    <message>
        <source>mirror</source>
        <translation>spiegeln</translation>
    </message>
    <message>
        <source>Mirror the picks about the last of them, a line (G m)</source>
        <translation>Die Auswahl an der zuletzt gewählten Linie spiegeln (G m)</translation>
    </message>
    <message>
        <source>add</source>
        <translation>hinzufügen</translation>
    </message>
    <message>
        <source>Add the constraint to the picked lines, arcs or points (R)</source>
        <translation>Die Bedingung den gewählten Linien, Bögen oder Punkten hinzufügen (R)</translation>
    </message>
    <message>
        <source>constraint</source>
        <translation>Bedingung</translation>
    </message>
    <message>
        <source>dimension</source>
        <translation>Maß</translation>
    </message>
    <message>
        <source>Size of a picked arc or circle, length of a line, distance of two picks, as a Ledger row (V)</source>
        <translation>Größe eines gewählten Bogens oder Kreises, Länge einer Linie, Abstand zweier, als Zeile im Maßbuch (V)</translation>
    </message>
    <message>
        <source>angle</source>
        <translation>Winkel</translation>
    </message>
    <message>
        <source>Angle of two picked lines, as a Ledger row (V a)</source>
        <translation>Winkel zweier gewählter Linien, als Zeile im Maßbuch (V a)</translation>
    </message>
    <message>
        <source>delete</source>
        <translation>löschen</translation>
    </message>
    <message>
        <source>Delete the picked lines and arcs, or the chosen constraint (Del)</source>
        <translation>Die gewählten Linien und Bögen oder die gewählte Bedingung löschen (Entf)</translation>
    </message>
    <message>
        <source>Radius of the corner, 0 for a sharp one; distance of the offset, of a closed outline outward, minus inward</source>
        <translation>Radius der Ecke, 0 für eine scharfe; Abstand des Versatzes, bei geschlossenem Umriss nach außen, minus nach innen</translation>
    </message>
    <message>
        <source>corner</source>
        <translation>Ecke</translation>
    </message>
    <message>
        <source>Extend two picked lines to their corner and drop what lies between</source>
        <translation>Zwei gewählte Linien bis zu ihrer Ecke verlängern und weglassen, was dazwischen liegt</translation>
    </message>
    <message>
        <source>offset</source>
        <translation>Versatz</translation>
    </message>
    <message>
        <source>Copy the outline of the pick at this distance (G o)</source>
        <translation>Den Umriss der Auswahl in diesem Abstand wiederholen (G o)</translation>
    </message>
    <message>
        <source>R, mm</source>
        <translation>R, mm</translation>
    </message>
    <message>
        <source>Constraints</source>
        <translation>Bedingungen</translation>
    </message>
    <message>
        <source>Constraints of the sketch; Del deletes the chosen one</source>
        <translation>Bedingungen der Skizze; Entf löscht die gewählte</translation>
    </message>
    <message>
        <source>accept suggestions</source>
        <translation>Vorschläge annehmen</translation>
    </message>
    <message>
        <source>Add the constraints that hold within tolerance</source>
        <translation>Die Bedingungen hinzufügen, die innerhalb der Toleranz gelten</translation>
    </message>
    <message>
        <source>Value of the dimension</source>
        <translation>Wert des Maßes</translation>
    </message>
    <message>
        <source>Pick a line, arc or circle of the outline first.</source>
        <translation>Erst eine Linie, einen Bogen oder Kreis des Umrisses wählen.</translation>
    </message>
    <message>
        <source>edit sketch %1</source>
        <translation>Skizze %1 ändern</translation>
    </message>
    <message>
        <source>“%1” is not a number. Type the value of the dimension.</source>
        <translation>„%1“ ist keine Zahl. Den Wert des Maßes eintippen.</translation>
    </message>
    <message>
        <source>This value clashes with other constraints; nothing was changed.</source>
        <translation>Dieser Wert widerspricht anderen Bedingungen; nichts wurde geändert.</translation>
    </message>
    <message>
        <source>Pick what is mirrored, then the line.</source>
        <translation>Wählen, was gespiegelt wird, dann die Linie.</translation>
    </message>
    <message>
        <source>Click the stretch that goes; Esc ends.</source>
        <translation>Das Stück anklicken, das weg soll; Esc beendet.</translation>
    </message>
    <message>
        <source>Click near the end that grows; Esc ends.</source>
        <translation>Nahe dem Ende klicken, das wächst; Esc beendet.</translation>
    </message>
    <message>
        <source>Pick the two lines that make the corner.</source>
        <translation>Die beiden Linien wählen, die die Ecke bilden.</translation>
    </message>
    <message>
        <source>no more suggestions</source>
        <translation>keine Vorschläge mehr</translation>
    </message>
    <message>
        <source>accept %1 suggestions</source>
        <translation>%1 Vorschläge annehmen</translation>
    </message>
    <message>
        <source> inked</source>
        <translation> in Tusche</translation>
    </message>
    <message>
        <source>Sketch %1 against its section</source>
        <translation>Skizze %1 gegen ihren Schnitt</translation>
    </message>
    <message>
        <source>fitting to the section …</source>
        <translation>wird dem Schnitt angepasst …</translation>
    </message>
    <message>
        <source>held</source>
        <translation>bestimmt</translation>
    </message>
    <message>
        <source>loose %1</source>
        <translation>frei %1</translation>
    </message>
    <message>
        <source> · RMS %1 · greatest %2</source>
        <translation> · RMS %1 · größte %2</translation>
    </message>
    <message>
        <source> · whiskers × %1</source>
        <translation> · Nadeln × %1</translation>
    </message>
    <message>
        <source>Click lines, arcs or points to pick; drag a point to move it.</source>
        <translation>Linien, Bögen oder Punkte anklicken; einen Punkt ziehen, um ihn zu bewegen.</translation>
    </message>
    <message>
        <source>picked: </source>
        <translation>gewählt: </translation>
    </message>
    <message>
        <source>These contradict each other: %1. Delete or lift one of them.</source>
        <translation>Diese widersprechen einander: %1. Eine davon löschen oder aufheben.</translation>
    </message>
    <message>
        <source>
not settled: the sketch still moves on its section</source>
        <translation>
nicht eingependelt: die Skizze bewegt sich noch auf ihrem Schnitt</translation>
    </message>
    <message>
        <source>more</source>
        <translation>mehr</translation>
    </message>
    <message>
        <source>%1 (G %2)</source>
        <translation>%1 (G %2)</translation>
    </message>
    <message>
        <source>%1  G %2</source>
        <translation>%1  G %2</translation>
    </message>
    <message>
        <source>break</source>
        <translation>teilen</translation>
    </message>
    <message>
        <source>Cut a curve in two where it is clicked (G k)</source>
        <translation>Eine Kurve teilen, wo sie angeklickt wird (G k)</translation>
    </message>
    <message>
        <source>Suggestions</source>
        <translation>Vorschläge</translation>
    </message>
    <message>
        <source>Constraints that the section allows, each with how far it moves the sketch and the RMS with it; double-click adds one</source>
        <translation>Bedingungen, die der Schnitt zulässt, jede mit dem, was sie verschiebt, und dem RMS mit ihr; Doppelklick fügt eine hinzu</translation>
    </message>
    <message>
        <source>only this</source>
        <translation>nur diesen</translation>
    </message>
    <message>
        <source>Add the suggestion that is chosen in the list</source>
        <translation>Den in der Liste gewählten Vorschlag hinzufügen</translation>
    </message>
    <message>
        <source>dimension it</source>
        <translation>bemaßen</translation>
    </message>
    <message>
        <source>Add the dimensions that the sketch still lacks, as a draughtsman would: each once, from the axes; in pencil, as Ledger rows (V V)</source>
        <translation>Die Maße hinzufügen, die der Skizze noch fehlen, wie ein Zeichner: jedes einmal, von den Achsen aus; in Blei, als Zeilen des Maßbuchs (V V)</translation>
    </message>
    <message>
        <source>do it</source>
        <translation>ausführen</translation>
    </message>
    <message>
        <source>Change the picks so</source>
        <translation>Das Gewählte so ändern</translation>
    </message>
    <message>
        <source>change</source>
        <translation>ändern</translation>
    </message>
    <message>
        <source>as</source>
        <translation>als</translation>
    </message>
    <message>
        <source>by x, mm</source>
        <translation>um x, mm</translation>
    </message>
    <message>
        <source>by y, mm</source>
        <translation>um y, mm</translation>
    </message>
    <message>
        <source>angle, °</source>
        <translation>Winkel, °</translation>
    </message>
    <message>
        <source>factor</source>
        <translation>Faktor</translation>
    </message>
    <message>
        <source>How many in all; the sides of a polygon</source>
        <translation>Wie viele insgesamt; die Seiten eines Vielecks</translation>
    </message>
    <message>
        <source>number</source>
        <translation>Anzahl</translation>
    </message>
    <message>
        <source>Pick what is changed first.</source>
        <translation>Zuerst wählen, was geändert wird.</translation>
    </message>
    <message>
        <source>Pick what is copied first.</source>
        <translation>Zuerst wählen, was kopiert wird.</translation>
    </message>
    <message>
        <source>Copied. Paste puts it at the same place of any sketch (G v).</source>
        <translation>Kopiert. Einfügen setzt es an dieselbe Stelle jeder Skizze (G v).</translation>
    </message>
    <message>
        <source>Nothing was copied yet.</source>
        <translation>Noch wurde nichts kopiert.</translation>
    </message>
    <message>
        <source>Choose a suggestion in the list first.</source>
        <translation>Zuerst einen Vorschlag in der Liste wählen.</translation>
    </message>
    <message>
        <source>  · off %1, RMS %2 → %3</source>
        <translation>  · um %1, RMS %2 → %3</translation>
    </message>
    <message>
        <source>This dimension follows from others and cannot be decided.</source>
        <translation>Dieses Maß folgt aus anderen und kann nicht entschieden werden.</translation>
    </message>
    <message>
        <source>Click where the curve is cut; Esc ends.</source>
        <translation>Anklicken, wo die Kurve geteilt wird; Esc beendet.</translation>
    </message>
    <message>
        <source>looking for the dimensions that are missing …</source>
        <translation>suche die fehlenden Maße …</translation>
    </message>
    <message>
        <source>The sketch has all the dimensions it needs.</source>
        <translation>Die Skizze hat alle Maße, die sie braucht.</translation>
    </message>
    <message>
        <source>No dimension holds what is left loose: %1 numbers.</source>
        <translation>Kein Maß hält, was noch lose ist: %1 Zahlen.</translation>
    </message>
    <message>
        <source>
rests on region %1: %2</source>
        <translation>
ruht auf Bereich %1: %2</translation>
    </message>
    <message>
        <source>What else can be drawn or brought in (G)</source>
        <translation>Was sonst gezeichnet oder hereingeholt werden kann (G)</translation>
    </message>
    <message>
        <source>This is in the sketch already.</source>
        <translation>Das ist schon in der Skizze.</translation>
    </message>
    <message>
        <source>A sketch cannot be brought into itself.</source>
        <translation>Eine Skizze lässt sich nicht in sich selbst holen.</translation>
    </message>
    <message>
        <source>Click edges or faces of the model, or regions of the scan; fits, sketches and bodies in Evidence. Esc ends.</source>
        <translation>Kanten oder Flächen des Modells anklicken, oder Bereiche des Scans; Elemente, Skizzen und Körper im Befund. Esc beendet.</translation>
    </message>
    <message>
        <source>To take it into the sketch, press G f first: bring in.</source>
        <translation>Um es in die Skizze zu holen, zuerst G f drücken: hereinholen.</translation>
    </message>
</context>
<context>
    <name>lostline::app::SketchedTool</name>
    <message>
        <source>profile</source>
        <translation>Profil</translation>
    </message>
    <message>
        <source>surface only, from open outlines too</source>
        <translation>nur Fläche, auch aus offenen Umrissen</translation>
    </message>
    <message>
        <source>The curves sweep out a surface body without an inside</source>
        <translation>Die Kurven überstreichen einen Flächenkörper ohne Inneres</translation>
    </message>
    <message>
        <source>Bodies that the material is added to, cut from or kept in common with</source>
        <translation>Körper, denen der Werkstoff hinzugefügt, abgezogen oder gemeinsam behalten wird</translation>
    </message>
    <message>
        <source>those it touches</source>
        <translation>die er berührt</translation>
    </message>
    <message>
        <source>%1 bodies</source>
        <translation>%1 Körper</translation>
    </message>
    <message>
        <source>bodies</source>
        <translation>Körper</translation>
    </message>
    <message numerus="yes">
        <source>
leaves %n outline(s) inside it: click to take them as openings</source>
        <translation>
            <numerusform>
lässt %n Umriss darin: anklicken, um ihn als Öffnung zu nehmen</numerusform>
            <numerusform>
lässt %n Umrisse darin: anklicken, um sie als Öffnungen zu nehmen</numerusform>
        </translation>
    </message>
    <message>
        <source>
leaves an outline that does not close: its ends lie %1 apart, one at %2, %3</source>
        <translation>
lässt einen Umriss, der nicht schließt: seine Enden liegen %1 auseinander, eines bei %2, %3</translation>
    </message>
    <message>
        <source>
… and more</source>
        <translation>
… und weitere</translation>
    </message>
</context>
<context>
    <name>lostline::app::StartPage</name>
    <message>
        <source>Open a scan of the part, or drop a file here.
Then work down the seven stages at the left; each offers its tools.
What the scan says is pencilled; what you decide is inked.</source>
        <translation>Einen Scan des Teils öffnen oder eine Datei hier ablegen.
Dann links die sieben Stufen hinab; jede bietet ihre Werkzeuge.
Was der Scan sagt, steht in Blei; was entschieden ist, in Tusche.</translation>
    </message>
    <message>
        <source>Open a scan …</source>
        <translation>Scan öffnen …</translation>
    </message>
    <message>
        <source>A scan or a project (Ctrl+O)</source>
        <translation>Einen Scan oder ein Projekt (Strg+O)</translation>
    </message>
    <message>
        <source>Open the demo</source>
        <translation>Vorführteil öffnen</translation>
    </message>
    <message>
        <source>The scan of the worn pedestal that ships with the program</source>
        <translation>Der Scan des abgenutzten Lagerbocks, der mit dem Programm kommt</translation>
    </message>
    <message>
        <source>Take the tour</source>
        <translation>Rundgang</translation>
    </message>
    <message>
        <source>Five steps on the demo, from scan to model; leave it at any time</source>
        <translation>Fünf Schritte am Vorführteil, vom Scan zum Modell; jederzeit zu verlassen</translation>
    </message>
    <message>
        <source>Worked on before</source>
        <translation>Zuletzt bearbeitet</translation>
    </message>
    <message>
        <source>Open %1</source>
        <translation>%1 öffnen</translation>
    </message>
</context>
<context>
    <name>lostline::app::StepTool</name>
    <message>
        <source>name</source>
        <translation>Name</translation>
    </message>
    <message>
        <source>Give the step a name.</source>
        <translation>Dem Schritt einen Namen geben.</translation>
    </message>
    <message>
        <source>edit step %1</source>
        <translation>Schritt %1 ändern</translation>
    </message>
    <message>
        <source>%1 %2</source>
        <translation>%1 %2</translation>
    </message>
    <message>
        <source>scan</source>
        <translation>Scan</translation>
    </message>
</context>
<context>
    <name>lostline::app::Strip</name>
    <message>
        <source>Flat pictures appear here: the section with its drift while tracing, the histogram of the deviation once there is a model.</source>
        <translation>Flache Bilder erscheinen hier: beim Zeichnen der Schnitt mit seiner Abweichung, die Verteilung der Abweichung, sobald es ein Modell gibt.</translation>
    </message>
    <message>
        <source>Histogram of the deviation</source>
        <translation>Verteilung der Abweichung</translation>
    </message>
    <message>
        <source>the plane misses the scan</source>
        <translation>die Ebene trifft den Scan nicht</translation>
    </message>
    <message numerus="yes">
        <source>%n outline(s)</source>
        <translation>
            <numerusform>%n Umriss</numerusform>
            <numerusform>%n Umrisse</numerusform>
        </translation>
    </message>
    <message>
        <source>drift RMS %1 · greatest %2</source>
        <translation>Abweichung RMS %1 · größte %2</translation>
    </message>
    <message>
        <source>nothing to compare here</source>
        <translation>hier nichts zu vergleichen</translation>
    </message>
    <message>
        <source>RMS %1 · greatest %2</source>
        <translation>RMS %1 · größte %2</translation>
    </message>
    <message>
        <source>Valley of %1</source>
        <translation>Tal von %1</translation>
    </message>
    <message>
        <source>lowest at %1 · %2 points of the scan · grey band: reading ± U</source>
        <translation>tiefste Stelle bei %1 · %2 Punkte des Scans · graues Band: Ablesung ± U</translation>
    </message>
    <message>
        <source>Strip</source>
        <translation>Streifen</translation>
    </message>
    <message>
        <source>comparing …</source>
        <translation>Vergleich läuft …</translation>
    </message>
    <message>
        <source>Deviation from the model as it was before</source>
        <translation>Abweichung vom vorherigen Stand des Modells</translation>
    </message>
    <message>
        <source>Deviation from the model</source>
        <translation>Abweichung vom Modell</translation>
    </message>
    <message>
        <source>RMS %1 · 95 % within %2 · %3 % within ±%4</source>
        <translation>RMS %1 · 95 % innerhalb %2 · %3 % innerhalb ±%4</translation>
    </message>
    <message>
        <source>short  ←  %1  →  proud</source>
        <translation>Untermaß  ←  %1  →  Aufmaß</translation>
    </message>
    <message>
        <source>share, %</source>
        <translation>Anteil, %</translation>
    </message>
</context>
<context>
    <name>lostline::app::TargetsTool</name>
    <message>
        <source>Targets</source>
        <translation>Bezugsstellen</translation>
    </message>
    <message>
        <source>Datum</source>
        <translation>Bezug</translation>
    </message>
    <message>
        <source>Of the area that each target is averaged over</source>
        <translation>Der Fläche, über die jede Bezugsstelle gemittelt wird</translation>
    </message>
    <message>
        <source>⌀ of area, mm</source>
        <translation>⌀ der Stelle, mm</translation>
    </message>
    <message>
        <source>A becomes</source>
        <translation>A wird</translation>
    </message>
    <message>
        <source>B becomes</source>
        <translation>B wird</translation>
    </message>
    <message>
        <source>take back</source>
        <translation>zurücknehmen</translation>
    </message>
    <message>
        <source>Take the last target back</source>
        <translation>Die letzte Bezugsstelle zurücknehmen</translation>
    </message>
    <message>
        <source>set frame on targets</source>
        <translation>Bezug auf Bezugsstellen setzen</translation>
    </message>
    <message>
        <source>What the outward normal of these targets becomes</source>
        <translation>Was die äußere Normale dieser Bezugsstellen wird</translation>
    </message>
    <message>
        <source>Click target %1: %2.</source>
        <translation>Bezugsstelle %1 anklicken: %2.</translation>
    </message>
    <message>
        <source>three places that the part stands on</source>
        <translation>drei Stellen, auf denen das Teil steht</translation>
    </message>
    <message>
        <source>two on the side that it is pushed against</source>
        <translation>zwei an der Seite, gegen die es gedrückt wird</translation>
    </message>
    <message>
        <source>one on the end stop</source>
        <translation>eine am Anschlag</translation>
    </message>
    <message>
        <source>%1: place ± %2, direction ± %3°
</source>
        <translation>%1: Ort ± %2, Richtung ± %3°
</translation>
    </message>
    <message>
        <source>Preview shown.</source>
        <translation>Vorschau.</translation>
    </message>
</context>
<context>
    <name>lostline::app::ToModelTool</name>
    <message>
        <source>To model</source>
        <translation>Auf Modell</translation>
    </message>
    <message>
        <source>Datum</source>
        <translation>Bezug</translation>
    </message>
    <message>
        <source>a STEP file</source>
        <translation>eine STEP-Datei</translation>
    </message>
    <message>
        <source>The model that the scan is laid upon</source>
        <translation>Das Modell, auf das der Scan gelegt wird</translation>
    </message>
    <message>
        <source>model</source>
        <translation>Modell</translation>
    </message>
    <message>
        <source>choose…</source>
        <translation>wählen …</translation>
    </message>
    <message>
        <source>Choose a STEP file</source>
        <translation>Eine STEP-Datei wählen</translation>
    </message>
    <message>
        <source>by size</source>
        <translation>nach Größe</translation>
    </message>
    <message>
        <source>What lies further from the model belongs to none of it</source>
        <translation>Was weiter vom Modell liegt, gehört zu keinem davon</translation>
    </message>
    <message>
        <source>search, mm</source>
        <translation>Suche, mm</translation>
    </message>
    <message>
        <source>matching surfaces</source>
        <translation>passende Flächen</translation>
    </message>
    <message>
        <source>features paired</source>
        <translation>Elemente paarweise</translation>
    </message>
    <message>
        <source>points paired</source>
        <translation>Punkte paarweise</translation>
    </message>
    <message>
        <source>Where matching fails: say which features or points belong together</source>
        <translation>Wo das Zuordnen misslingt: angeben, welche Elemente oder Punkte zusammengehören</translation>
    </message>
    <message>
        <source>by</source>
        <translation>durch</translation>
    </message>
    <message>
        <source>none yet</source>
        <translation>noch keine</translation>
    </message>
    <message>
        <source>The pairs so far; click to take the last one back</source>
        <translation>Die Paare bisher; klicken nimmt das letzte zurück</translation>
    </message>
    <message>
        <source>pairs</source>
        <translation>Paare</translation>
    </message>
    <message>
        <source>Every way in which a symmetric part lies alike</source>
        <translation>Jede Lage, in der ein symmetrisches Teil gleich liegt</translation>
    </message>
    <message>
        <source>lies</source>
        <translation>liegt</translation>
    </message>
    <message>
        <source>Choose the model. Surfaces of the scan are matched with its faces.</source>
        <translation>Das Modell wählen. Flächen des Scans werden seinen Flächen zugeordnet.</translation>
    </message>
    <message>
        <source>No surface was found there. Click a region with a fit.</source>
        <translation>Dort wurde keine Fläche gefunden. Einen Bereich mit Ausgleich anklicken.</translation>
    </message>
    <message>
        <source>This face of the model is free-form. Click another.</source>
        <translation>Diese Fläche des Modells ist eine Freiform. Eine andere anklicken.</translation>
    </message>
    <message>
        <source>The scan changed; it needs a survey to be matched.</source>
        <translation>Der Scan hat sich geändert; zum Zuordnen braucht er eine Aufnahme.</translation>
    </message>
    <message>
        <source>bring scan upon %1</source>
        <translation>Scan auf %1 legen</translation>
    </message>
    <message>
        <source>Model</source>
        <translation>Modell</translation>
    </message>
    <message>
        <source>Models</source>
        <translation>Modelle</translation>
    </message>
    <message>
        <source>point</source>
        <translation>Punkt</translation>
    </message>
    <message>
        <source>Click a point on the scan.</source>
        <translation>Einen Punkt auf dem Scan anklicken.</translation>
    </message>
    <message>
        <source>Click a feature of the scan.</source>
        <translation>Ein Element des Scans anklicken.</translation>
    </message>
    <message>
        <source>Now the same point on the model.</source>
        <translation>Jetzt denselben Punkt am Modell.</translation>
    </message>
    <message>
        <source>Now the same feature on the model.</source>
        <translation>Jetzt dasselbe Element am Modell.</translation>
    </message>
    <message>
        <source>Matching surfaces …</source>
        <translation>Flächen werden zugeordnet …</translation>
    </message>
    <message>
        <source>way %1 of %2: %3 % agrees</source>
        <translation>Lage %1 von %2: %3 % stimmen überein</translation>
    </message>
    <message>
        <source>RMS %1 on %2 % of the scan</source>
        <translation>RMS %1 auf %2 % des Scans</translation>
    </message>
    <message>
        <source>
not settled: still moving after %1 rounds</source>
        <translation>
nicht zur Ruhe gekommen: nach %1 Runden noch in Bewegung</translation>
    </message>
    <message>
        <source>
not held: %1</source>
        <translation>
nicht gehalten: %1</translation>
    </message>
    <message>
        <source>
%1 area beyond %2, left out</source>
        <translation>
%1 Stelle jenseits %2, weggelassen</translation>
    </message>
    <message>
        <source>
%1 areas beyond %2, left out</source>
        <translation>
%1 Stellen jenseits %2, weggelassen</translation>
    </message>
    <message>
        <source>
  %1: %2</source>
        <translation>
  %1: %2</translation>
    </message>
    <message>
        <source>no model near</source>
        <translation>kein Modell in der Nähe</translation>
    </message>
</context>
<context>
    <name>lostline::app::Tool</name>
    <message>
        <source>It needs a scan: open one first.</source>
        <translation>Es braucht einen Scan: erst einen öffnen.</translation>
    </message>
    <message>
        <source>It needs regions: split the scan first (Survey, Regions).</source>
        <translation>Es braucht Bereiche: erst den Scan teilen (Aufnahme, Bereiche).</translation>
    </message>
    <message>
        <source>It needs a sketch: cut a section first (Trace, Section).</source>
        <translation>Es braucht eine Skizze: erst einen Schnitt legen (Zeichnen, Schnitt).</translation>
    </message>
    <message>
        <source>It needs a model: build a step first (Build, Extrude).</source>
        <translation>Es braucht ein Modell: erst einen Schritt aufbauen (Aufbau, Extrusion).</translation>
    </message>
    <message>
        <source>It needs a scan and a model: build a step first (Build, Extrude).</source>
        <translation>Es braucht Scan und Modell: erst einen Schritt aufbauen (Aufbau, Extrusion).</translation>
    </message>
    <message>
        <source>It needs rows in the Ledger: trace, build or measure first.</source>
        <translation>Es braucht Zeilen im Maßbuch: erst zeichnen, aufbauen oder messen.</translation>
    </message>
</context>
<context>
    <name>lostline::app::ToolCard</name>
    <message>
        <source>Progress; Discard stops it</source>
        <translation>Fortschritt; Verwerfen hält an</translation>
    </message>
    <message>
        <source>Discard  Esc</source>
        <translation>Verwerfen  Esc</translation>
    </message>
    <message>
        <source>Discard</source>
        <translation>Verwerfen</translation>
    </message>
    <message>
        <source>Close without a change (Esc)</source>
        <translation>Ohne Änderung schließen (Esc)</translation>
    </message>
    <message>
        <source>Keep  ⏎</source>
        <translation>Übernehmen  ⏎</translation>
    </message>
    <message>
        <source>Keep</source>
        <translation>Übernehmen</translation>
    </message>
    <message>
        <source>Keep the result (Return)</source>
        <translation>Das Ergebnis übernehmen (Eingabe)</translation>
    </message>
    <message>
        <source>free view</source>
        <translation>freie Ansicht</translation>
    </message>
    <message>
        <source>front, with grid</source>
        <translation>von vorn, mit Raster</translation>
    </message>
    <message>
        <source>right, with grid</source>
        <translation>von rechts, mit Raster</translation>
    </message>
    <message>
        <source>top, with grid</source>
        <translation>von oben, mit Raster</translation>
    </message>
    <message>
        <source>Principal views with straight grid lines, to judge parallelism</source>
        <translation>Hauptansichten mit geraden Rasterlinien, um Parallelität zu beurteilen</translation>
    </message>
    <message>
        <source>check</source>
        <translation>prüfen</translation>
    </message>
    <message>
        <source>Done  ⏎</source>
        <translation>Fertig  ⏎</translation>
    </message>
    <message>
        <source>Every act here is kept at once and can be undone (Return or Esc)</source>
        <translation>Alles hier gilt sofort und kann zurückgenommen werden (Eingabe oder Esc)</translation>
    </message>
</context>
<context>
    <name>lostline::app::Tour</name>
    <message>
        <source>Leave the tour</source>
        <translation>Rundgang verlassen</translation>
    </message>
    <message>
        <source>Tour</source>
        <translation>Rundgang</translation>
    </message>
    <message>
        <source>What was made so far stays</source>
        <translation>Was bisher gemacht ist, bleibt</translation>
    </message>
    <message>
        <source>That is the way</source>
        <translation>Das ist der Weg</translation>
    </message>
    <message>
        <source>More sections and steps follow in the same manner; Prove shows how far the scan lies from the model. The guide (F1) rebuilds the whole pedestal.</source>
        <translation>Weitere Schnitte und Schritte folgen ebenso; der Nachweis zeigt, wie weit der Scan vom Modell liegt. Das Handbuch (F1) baut den ganzen Lagerbock nach.</translation>
    </message>
    <message>
        <source>End of the tour</source>
        <translation>Ende des Rundgangs</translation>
    </message>
    <message>
        <source>Tour, %1 of %2</source>
        <translation>Rundgang, %1 von %2</translation>
    </message>
    <message>
        <source>Start %1</source>
        <translation>%1 beginnen</translation>
    </message>
</context>
<context>
    <name>lostline::app::ValleyPlot</name>
    <message>
        <source>Valley: RMS deviation against the value</source>
        <translation>Tal: RMS-Abweichung über dem Wert</translation>
    </message>
    <message>
        <source>Drag the red marker: the model follows; letting go inks the value</source>
        <translation>Die rote Marke ziehen: das Modell folgt; Loslassen legt den Wert fest</translation>
    </message>
    <message>
        <source>, °</source>
        <translation>, °</translation>
    </message>
    <message>
        <source>, mm</source>
        <translation>, mm</translation>
    </message>
    <message>
        <source>RMS, mm</source>
        <translation>RMS, mm</translation>
    </message>
</context>
<context>
    <name>steps</name>
    <message>
        <source>Cut</source>
        <translation>Ausschnitt</translation>
    </message>
    <message>
        <source>cut closed areas of a sketch</source>
        <translation>geschlossene Flächen einer Skizze ausschneiden</translation>
    </message>
</context>
<context>
    <name>tools</name>
    <message>
        <source>Bodies</source>
        <translation>Körper</translation>
    </message>
    <message>
        <source>Name, colour, show and hide the bodies of the model</source>
        <translation>Körper des Modells benennen, färben, zeigen und verbergen</translation>
    </message>
    <message>
        <source>Ink</source>
        <translation>Festlegen</translation>
    </message>
    <message>
        <source>Ink what is certain: all at once, each with its reason</source>
        <translation>Sicheres festlegen: alles auf einmal, jedes mit seinem Grund</translation>
    </message>
    <message>
        <source>Feature</source>
        <translation>Bezugselement</translation>
    </message>
    <message>
        <source>Midplane, common axis, bolt circle, symmetry plane</source>
        <translation>Mittelebene, gemeinsame Achse, Lochkreis, Symmetrieebene</translation>
    </message>
    <message>
        <source>Frame</source>
        <translation>Bezugssystem</translation>
    </message>
    <message>
        <source>Datum frame by 3-2-1</source>
        <translation>Bezugssystem nach 3-2-1</translation>
    </message>
    <message>
        <source>Targets</source>
        <translation>Bezugsstellen</translation>
    </message>
    <message>
        <source>Datum frame by six datum targets on rough faces</source>
        <translation>Bezugssystem aus sechs Bezugsstellen auf rohen Flächen</translation>
    </message>
    <message>
        <source>To model</source>
        <translation>Auf Modell</translation>
    </message>
    <message>
        <source>Bring the scan upon a STEP model</source>
        <translation>Den Scan auf ein STEP-Modell legen</translation>
    </message>
    <message>
        <source>Compare</source>
        <translation>Vergleichen</translation>
    </message>
    <message>
        <source>A plane section of scan against model, with whiskers</source>
        <translation>Ein ebener Schnitt von Scan und Modell, mit Nadeln</translation>
    </message>
    <message>
        <source>Deviation</source>
        <translation>Abweichung</translation>
    </message>
    <message>
        <source>Signed distance of the scan from the model</source>
        <translation>Vorzeichenbehafteter Abstand des Scans vom Modell</translation>
    </message>
    <message>
        <source>Missing</source>
        <translation>Fehlendes</translation>
    </message>
    <message>
        <source>What of the model the scan does not show</source>
        <translation>Was vom Modell der Scan nicht zeigt</translation>
    </message>
    <message>
        <source>Clean</source>
        <translation>Säubern</translation>
    </message>
    <message>
        <source>Select on the scan; delete, fill holes, thin, smooth</source>
        <translation>Auf dem Scan auswählen; löschen, Löcher füllen, ausdünnen, glätten</translation>
    </message>
    <message>
        <source>Health</source>
        <translation>Zustand</translation>
    </message>
    <message>
        <source>Unit, health and islands of the scan</source>
        <translation>Einheit, Zustand und Inseln des Scans</translation>
    </message>
    <message>
        <source>Quality</source>
        <translation>Güte</translation>
    </message>
    <message>
        <source>Noise and spacing of the scan, place by place</source>
        <translation>Rauschen und Punktabstand des Scans, Stelle für Stelle</translation>
    </message>
    <message>
        <source>Scale</source>
        <translation>Maßstab</translation>
    </message>
    <message>
        <source>Settle the scale by a length that you know</source>
        <translation>Den Maßstab durch eine bekannte Länge festlegen</translation>
    </message>
    <message>
        <source>Hand on</source>
        <translation>Weitergabe</translation>
    </message>
    <message>
        <source>Write the model, the report, the Ledger or sketches</source>
        <translation>Modell, Bericht, Maßbuch oder Skizzen schreiben</translation>
    </message>
    <message>
        <source>Fit</source>
        <translation>Ausgleich</translation>
    </message>
    <message>
        <source>Fit a surface, a line or a circle</source>
        <translation>Eine Fläche, eine Gerade oder einen Kreis ausgleichen</translation>
    </message>
    <message>
        <source>Measure</source>
        <translation>Messen</translation>
    </message>
    <message>
        <source>Distances, angles, radius by three points, wall thickness</source>
        <translation>Abstände, Winkel, Radius durch drei Punkte, Wanddicke</translation>
    </message>
    <message>
        <source>Patterns</source>
        <translation>Anordnungen</translation>
    </message>
    <message>
        <source>Bolt circles, grids, stacks, mirrored pairs found: accept one, some, all</source>
        <translation>Lochkreise, Raster, Stapel, Spiegelpaare gefunden: eines, einige, alle annehmen</translation>
    </message>
    <message>
        <source>Regions</source>
        <translation>Bereiche</translation>
    </message>
    <message>
        <source>Split the scan into regions</source>
        <translation>Den Scan in Bereiche teilen</translation>
    </message>
    <message>
        <source>Relate</source>
        <translation>Beziehungen</translation>
    </message>
    <message>
        <source>Relations between fits, imposed together</source>
        <translation>Beziehungen zwischen Elementen, gemeinsam auferlegt</translation>
    </message>
    <message>
        <source>Repaint</source>
        <translation>Umfärben</translation>
    </message>
    <message>
        <source>Merge, split, repaint, lock regions by hand</source>
        <translation>Bereiche von Hand vereinen, teilen, umfärben, sperren</translation>
    </message>
    <message>
        <source>Receive</source>
        <translation>Eingang</translation>
    </message>
    <message>
        <source>receive</source>
        <translation>Eingang</translation>
    </message>
    <message>
        <source>Survey</source>
        <translation>Aufnahme</translation>
    </message>
    <message>
        <source>survey</source>
        <translation>Aufnahme</translation>
    </message>
    <message>
        <source>Datum</source>
        <translation>Bezug</translation>
    </message>
    <message>
        <source>datum</source>
        <translation>Bezug</translation>
    </message>
    <message>
        <source>Trace</source>
        <translation>Zeichnen</translation>
    </message>
    <message>
        <source>section</source>
        <translation>Zeichnen</translation>
    </message>
    <message>
        <source>Build</source>
        <translation>Aufbau</translation>
    </message>
    <message>
        <source>build</source>
        <translation>Aufbau</translation>
    </message>
    <message>
        <source>Prove</source>
        <translation>Nachweis</translation>
    </message>
    <message>
        <source>prove</source>
        <translation>Nachweis</translation>
    </message>
    <message>
        <source>Release</source>
        <translation>Freigabe</translation>
    </message>
    <message>
        <source>hand on</source>
        <translation>Weitergabe</translation>
    </message>
    <message>
        <source>Section</source>
        <translation>Schnitt</translation>
    </message>
    <message>
        <source>Section by a datum plane, a face, an axis</source>
        <translation>Schnitt an einer Bezugsebene, einer Fläche, einer Achse</translation>
    </message>
    <message>
        <source>Sketch</source>
        <translation>Skizze</translation>
    </message>
    <message>
        <source>Constraints and dimensions of the last sketch</source>
        <translation>Bedingungen und Maße der letzten Skizze</translation>
    </message>
    <message>
        <source>view</source>
        <translation>Ansicht</translation>
    </message>
    <message>
        <source>front</source>
        <translation>vorn</translation>
    </message>
    <message>
        <source>back</source>
        <translation>hinten</translation>
    </message>
    <message>
        <source>left</source>
        <translation>links</translation>
    </message>
    <message>
        <source>right</source>
        <translation>rechts</translation>
    </message>
    <message>
        <source>top</source>
        <translation>oben</translation>
    </message>
    <message>
        <source>bottom</source>
        <translation>unten</translation>
    </message>
    <message>
        <source>oblique</source>
        <translation>schräg</translation>
    </message>
    <message>
        <source>whole</source>
        <translation>ganz</translation>
    </message>
    <message>
        <source>selection</source>
        <translation>Auswahl</translation>
    </message>
    <message>
        <source>window</source>
        <translation>Fenster</translation>
    </message>
    <message>
        <source>straight at the selection</source>
        <translation>gerade auf die Auswahl</translation>
    </message>
    <message>
        <source>clip plane</source>
        <translation>Schnittebene</translation>
    </message>
    <message>
        <source>its other side</source>
        <translation>ihre andere Seite</translation>
    </message>
    <message>
        <source>constraint of the picks</source>
        <translation>Bedingung der Auswahl</translation>
    </message>
    <message>
        <source>horizontal</source>
        <translation>waagrecht</translation>
    </message>
    <message>
        <source>vertical</source>
        <translation>senkrecht</translation>
    </message>
    <message>
        <source>parallel</source>
        <translation>parallel</translation>
    </message>
    <message>
        <source>perpendicular</source>
        <translation>rechtwinklig</translation>
    </message>
    <message>
        <source>tangent</source>
        <translation>tangential</translation>
    </message>
    <message>
        <source>equal</source>
        <translation>gleich</translation>
    </message>
    <message>
        <source>concentric</source>
        <translation>konzentrisch</translation>
    </message>
    <message>
        <source>coincident</source>
        <translation>deckungsgleich</translation>
    </message>
    <message>
        <source>midpoint</source>
        <translation>Mittelpunkt</translation>
    </message>
    <message>
        <source>symmetric</source>
        <translation>symmetrisch</translation>
    </message>
    <message>
        <source>draw</source>
        <translation>zeichnen</translation>
    </message>
    <message>
        <source>line</source>
        <translation>Gerade</translation>
    </message>
    <message>
        <source>arc</source>
        <translation>Bogen</translation>
    </message>
    <message>
        <source>circle</source>
        <translation>Kreis</translation>
    </message>
    <message>
        <source>trim</source>
        <translation>stutzen</translation>
    </message>
    <message>
        <source>extend</source>
        <translation>verlängern</translation>
    </message>
    <message>
        <source>mirror</source>
        <translation>spiegeln</translation>
    </message>
    <message>
        <source>offset</source>
        <translation>Versatz</translation>
    </message>
    <message>
        <source>value</source>
        <translation>Wert</translation>
    </message>
    <message>
        <source>dimension of the picks</source>
        <translation>Maß der Auswahl</translation>
    </message>
    <message>
        <source>angle of two lines</source>
        <translation>Winkel zweier Linien</translation>
    </message>
    <message>
        <source>Outline</source>
        <translation>Umriss</translation>
    </message>
    <message>
        <source>What the scan covers seen along a direction, with an offset</source>
        <translation>Was der Scan längs einer Richtung verdeckt, mit Versatz</translation>
    </message>
    <message>
        <source>draw anew as</source>
        <translation>neu zeichnen als</translation>
    </message>
    <message>
        <source>The stretch of the picks once more from the section: pieces become one, or another kind; picks on both sides of a gap are drawn through it</source>
        <translation>Die Strecke des Gewählten noch einmal aus dem Schnitt: Stücke werden eines oder von anderer Art; Gewähltes zu beiden Seiten einer Lücke wird hindurchgezeichnet</translation>
    </message>
    <message>
        <source>move</source>
        <translation>verschieben</translation>
    </message>
    <message>
        <source>Move the picks</source>
        <translation>Das Gewählte verschieben</translation>
    </message>
    <message>
        <source>turn</source>
        <translation>drehen</translation>
    </message>
    <message>
        <source>Turn the picks about the point picked last, or the origin</source>
        <translation>Das Gewählte um den zuletzt gewählten Punkt drehen, sonst um den Ursprung</translation>
    </message>
    <message>
        <source>scale</source>
        <translation>skalieren</translation>
    </message>
    <message>
        <source>Scale the picks about the point picked last, or the origin</source>
        <translation>Das Gewählte um den zuletzt gewählten Punkt skalieren, sonst um den Ursprung</translation>
    </message>
    <message>
        <source>copies in a row</source>
        <translation>Kopien in Reihe</translation>
    </message>
    <message>
        <source>So many in all, each moved by as much</source>
        <translation>So viele insgesamt, jede um gleich viel verschoben</translation>
    </message>
    <message>
        <source>copies in a circle</source>
        <translation>Kopien im Kreis</translation>
    </message>
    <message>
        <source>So many in all, evenly about the point picked last, or the origin</source>
        <translation>So viele insgesamt, gleichmäßig um den zuletzt gewählten Punkt, sonst um den Ursprung</translation>
    </message>
    <message>
        <source>join</source>
        <translation>verbinden</translation>
    </message>
    <message>
        <source>Make one of two lines in a row, or two arcs of one circle</source>
        <translation>Aus zwei Linien in einer Flucht oder zwei Bögen eines Kreises eine machen</translation>
    </message>
    <message>
        <source>construction</source>
        <translation>Hilfslinie</translation>
    </message>
    <message>
        <source>The picks only help to draw: no part of a profile; once more, and they are drawn again</source>
        <translation>Das Gewählte hilft nur beim Zeichnen und ist kein Teil eines Profils; noch einmal, und es ist wieder gezeichnet</translation>
    </message>
    <message>
        <source>Draw lines, snapping to the section</source>
        <translation>Linien zeichnen, am Schnitt gefangen</translation>
    </message>
    <message>
        <source>click its start</source>
        <translation>den Anfang anklicken</translation>
    </message>
    <message>
        <source>click its end; Esc ends the chain</source>
        <translation>das Ende anklicken; Esc beendet den Zug</translation>
    </message>
    <message>
        <source>Draw an arc: start, end, a place on it</source>
        <translation>Einen Bogen zeichnen: Anfang, Ende, eine Stelle darauf</translation>
    </message>
    <message>
        <source>click its end</source>
        <translation>das Ende anklicken</translation>
    </message>
    <message>
        <source>click a place on it</source>
        <translation>eine Stelle darauf anklicken</translation>
    </message>
    <message>
        <source>Draw a circle: centre, rim</source>
        <translation>Einen Kreis zeichnen: Mitte, Rand</translation>
    </message>
    <message>
        <source>click its centre</source>
        <translation>die Mitte anklicken</translation>
    </message>
    <message>
        <source>click its rim</source>
        <translation>den Rand anklicken</translation>
    </message>
    <message>
        <source>arc about</source>
        <translation>Bogen um</translation>
    </message>
    <message>
        <source>Draw an arc: centre, start, end</source>
        <translation>Einen Bogen zeichnen: Mitte, Anfang, Ende</translation>
    </message>
    <message>
        <source>circle by 3</source>
        <translation>Kreis durch 3</translation>
    </message>
    <message>
        <source>Draw a circle through three places</source>
        <translation>Einen Kreis durch drei Stellen zeichnen</translation>
    </message>
    <message>
        <source>click a place on its rim</source>
        <translation>eine Stelle auf dem Rand anklicken</translation>
    </message>
    <message>
        <source>click a second place on its rim</source>
        <translation>eine zweite Stelle auf dem Rand anklicken</translation>
    </message>
    <message>
        <source>click a third place on its rim</source>
        <translation>eine dritte Stelle auf dem Rand anklicken</translation>
    </message>
    <message>
        <source>ellipse</source>
        <translation>Ellipse</translation>
    </message>
    <message>
        <source>Draw an ellipse: centre, end of an axis, a place on it</source>
        <translation>Eine Ellipse zeichnen: Mitte, Ende einer Achse, eine Stelle darauf</translation>
    </message>
    <message>
        <source>click the end of an axis</source>
        <translation>das Ende einer Achse anklicken</translation>
    </message>
    <message>
        <source>rectangle</source>
        <translation>Rechteck</translation>
    </message>
    <message>
        <source>Draw a level rectangle: two corners</source>
        <translation>Ein waagrechtes Rechteck zeichnen: zwei Ecken</translation>
    </message>
    <message>
        <source>click a corner</source>
        <translation>eine Ecke anklicken</translation>
    </message>
    <message>
        <source>click the opposite corner</source>
        <translation>die gegenüberliegende Ecke anklicken</translation>
    </message>
    <message>
        <source>turned rectangle</source>
        <translation>gedrehtes Rechteck</translation>
    </message>
    <message>
        <source>Draw a rectangle in any direction: one side, how far it reaches</source>
        <translation>Ein Rechteck in beliebiger Richtung zeichnen: eine Seite, wie weit es reicht</translation>
    </message>
    <message>
        <source>click the next corner</source>
        <translation>die nächste Ecke anklicken</translation>
    </message>
    <message>
        <source>click how far it reaches</source>
        <translation>anklicken, wie weit es reicht</translation>
    </message>
    <message>
        <source>slot</source>
        <translation>Langloch</translation>
    </message>
    <message>
        <source>Draw a slot: the centres of its ends, a place on its edge</source>
        <translation>Ein Langloch zeichnen: die Mitten der Enden, eine Stelle am Rand</translation>
    </message>
    <message>
        <source>click the centre of an end</source>
        <translation>die Mitte eines Endes anklicken</translation>
    </message>
    <message>
        <source>click the centre of the other end</source>
        <translation>die Mitte des anderen Endes anklicken</translation>
    </message>
    <message>
        <source>click a place on its edge</source>
        <translation>eine Stelle am Rand anklicken</translation>
    </message>
    <message>
        <source>polygon</source>
        <translation>Vieleck</translation>
    </message>
    <message>
        <source>Draw a regular polygon: centre, corner; sides in the field</source>
        <translation>Ein regelmäßiges Vieleck zeichnen: Mitte, Ecke; Seiten im Feld</translation>
    </message>
    <message>
        <source>spline</source>
        <translation>Spline</translation>
    </message>
    <message>
        <source>Draw a spline through places; Esc ends it, its start closes it</source>
        <translation>Einen Spline durch Stellen zeichnen; Esc beendet, sein Anfang schließt ihn</translation>
    </message>
    <message>
        <source>click the next place; Esc ends it, its start closes it</source>
        <translation>die nächste Stelle anklicken; Esc beendet, der Anfang schließt</translation>
    </message>
    <message>
        <source>point</source>
        <translation>Punkt</translation>
    </message>
    <message>
        <source>Draw points</source>
        <translation>Punkte zeichnen</translation>
    </message>
    <message>
        <source>click where it stands</source>
        <translation>anklicken, wo er steht</translation>
    </message>
    <message>
        <source>collinear</source>
        <translation>in einer Flucht</translation>
    </message>
    <message>
        <source>smooth</source>
        <translation>glätten</translation>
    </message>
    <message>
        <source>fixed</source>
        <translation>fest</translation>
    </message>
    <message>
        <source>break</source>
        <translation>teilen</translation>
    </message>
    <message>
        <source>copy</source>
        <translation>kopieren</translation>
    </message>
    <message>
        <source>paste</source>
        <translation>einfügen</translation>
    </message>
    <message>
        <source>all dimensions that are missing</source>
        <translation>alle fehlenden Maße</translation>
    </message>
    <message>
        <source>From scan</source>
        <translation>Aus Scan</translation>
    </message>
    <message>
        <source>From regions</source>
        <translation>Aus Bereichen</translation>
    </message>
    <message>
        <source>Sketch and step straight from picked regions</source>
        <translation>Skizze und Schritt gleich aus gewählten Bereichen</translation>
    </message>
    <message>
        <source>Join</source>
        <translation>Zusammenfügen</translation>
    </message>
    <message>
        <source>Bring several scans of the part together</source>
        <translation>Mehrere Scans des Teils zusammenbringen</translation>
    </message>
    <message>
        <source>Faces</source>
        <translation>Flächen</translation>
    </message>
    <message>
        <source>Sketched</source>
        <translation>Skizziert</translation>
    </message>
    <message>
        <source>Probe</source>
        <translation>Tasten</translation>
    </message>
    <message>
        <source>Touch features of the part with a probe</source>
        <translation>Elemente des Teils mit einem Taster antasten</translation>
    </message>
    <message>
        <source>Devices</source>
        <translation>Geräte</translation>
    </message>
    <message>
        <source>Scanner</source>
        <translation>Scanner</translation>
    </message>
    <message>
        <source>Scan with an instrument, view by view</source>
        <translation>Mit einem Gerät scannen, Ansicht für Ansicht</translation>
    </message>
    <message>
        <source>bring in</source>
        <translation>hereinholen</translation>
    </message>
    <message>
        <source>Draw edges and faces of the model, axes, centres and planes of regions and fits, and other sketches, seen square to the sketch, as construction that stays where it is</source>
        <translation>Kanten und Flächen des Modells, Achsen, Mitten und Ebenen von Bereichen und Elementen und andere Skizzen zeichnen, senkrecht zur Skizze gesehen, als Hilfslinien, die bleiben, wo sie sind</translation>
    </message>
    <message>
        <source>cut of the model</source>
        <translation>Schnitt des Modells</translation>
    </message>
    <message>
        <source>Draw where the plane of the sketch cuts the model, as construction that stays where it is</source>
        <translation>Zeichnen, wo die Ebene der Skizze das Modell schneidet, als Hilfslinien, die bleiben, wo sie sind</translation>
    </message>
    <message>
        <source>along the section</source>
        <translation>am Schnitt entlang</translation>
    </message>
    <message>
        <source>Follow the section from click to click: each stretch as the fewest curves</source>
        <translation>Dem Schnitt von Klick zu Klick folgen: jedes Stück mit den wenigsten Kurven</translation>
    </message>
    <message>
        <source>click where on the section it begins</source>
        <translation>anklicken, wo am Schnitt es beginnt</translation>
    </message>
    <message>
        <source>go along the section and click where a stretch ends; Esc ends it, its start closes it</source>
        <translation>am Schnitt entlanggehen und anklicken, wo ein Stück endet; Esc beendet es, der Anfang schließt es</translation>
    </message>
    <message>
        <source>Mesh</source>
        <translation>Vernetzen</translation>
    </message>
    <message>
        <source>How the points of a cloud were meshed; mesh them another way</source>
        <translation>Wie die Punkte einer Wolke vernetzt wurden; sie anders vernetzen</translation>
    </message>
    <message>
        <source>scan as points</source>
        <translation>Scan als Punkte</translation>
    </message>
</context>
<context>
    <name>tour</name>
    <message>
        <source>The scan is a cloud of triangles. Regions finds the planes, cylinders and cones it was made of: start it, then press Return to keep what it finds.</source>
        <translation>Der Scan ist eine Wolke von Dreiecken. Bereiche findet die Ebenen, Zylinder und Kegel, aus denen er entstand: beginnen, dann mit Eingabe übernehmen, was gefunden wurde.</translation>
    </message>
    <message>
        <source>A drawing starts from datums. In Frame press propose: the machined foot becomes the bottom, two holes give the direction, the bore the origin. Return keeps it.</source>
        <translation>Eine Zeichnung beginnt mit Bezügen. In Bezugssystem auf vorschlagen drücken: der bearbeitete Fuß wird die Unterseite, zwei Bohrungen geben die Richtung, die Hauptbohrung den Ursprung. Eingabe übernimmt.</translation>
    </message>
    <message>
        <source>A section shows the outline of the foot. Set the offset to 7 and press Return: lines, arcs and circles with the constraints that the scan suggests. Return once more keeps the sketch.</source>
        <translation>Ein Schnitt zeigt den Umriss des Fußes. Den Abstand auf 7 setzen und Eingabe drücken: Linien, Bögen und Kreise mit den Bedingungen, die der Scan nahelegt. Noch einmal Eingabe übernimmt die Skizze.</translation>
    </message>
    <message>
        <source>Extrude makes a body of the sketch. Both levels and the draft of the walls are read from the scan, each with its uncertainty. Return keeps it.</source>
        <translation>Extrusion macht einen Körper aus der Skizze. Beide Höhen und die Schräge der Wände werden vom Scan abgelesen, jede mit ihrer Unsicherheit. Eingabe übernimmt.</translation>
    </message>
    <message>
        <source>The Ledger lists what was read, in pencil. Ink proposes the values that were meant, each with its reason; Return decides those that stay ticked, and the model follows.</source>
        <translation>Das Maßbuch führt auf, was abgelesen wurde, in Blei. Festlegen schlägt die gemeinten Werte vor, jeden mit seinem Grund; Eingabe entscheidet, was angekreuzt bleibt, und das Modell folgt.</translation>
    </message>
</context>
<context>
    <name>Drafting</name>
    <message>
        <source>arc </source>
        <translation>Bogen </translation>
    </message>
</context>
</TS>
