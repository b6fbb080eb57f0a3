<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="de_DE" sourcelanguage="en">
<context>
    <name>core</name>
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
        <source>point</source>
        <translation>Punkt</translation>
    </message>
    <message>
        <source>planes</source>
        <translation>Ebenen</translation>
    </message>
    <message>
        <source>cylinders</source>
        <translation>Zylinder</translation>
    </message>
    <message>
        <source>cones</source>
        <translation>Kegel</translation>
    </message>
    <message>
        <source>spheres</source>
        <translation>Kugeln</translation>
    </message>
    <message>
        <source>torus faces</source>
        <translation>Torusflächen</translation>
    </message>
    <message>
        <source>machined</source>
        <translation>bearbeitet</translation>
    </message>
    <message>
        <source>as-cast</source>
        <translation>gegossen</translation>
    </message>
    <message>
        <source>formed</source>
        <translation>umgeformt</translation>
    </message>
    <message>
        <source>not told</source>
        <translation>nicht zu sagen</translation>
    </message>
    <message>
        <source>sound</source>
        <translation>in Ordnung</translation>
    </message>
    <message>
        <source>stale</source>
        <translation>veraltet</translation>
    </message>
    <message>
        <source>broken</source>
        <translation>fehlerhaft</translation>
    </message>
    <message>
        <source>parked</source>
        <translation>stillgelegt</translation>
    </message>
    <message>
        <source>solid</source>
        <translation>Vollkörper</translation>
    </message>
    <message>
        <source>surface</source>
        <translation>Fläche</translation>
    </message>
    <message>
        <source>curve</source>
        <translation>Kurve</translation>
    </message>
    <message>
        <source>coincident</source>
        <translation>deckungsgleich</translation>
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
        <source>concentric</source>
        <translation>konzentrisch</translation>
    </message>
    <message>
        <source>equal</source>
        <translation>gleich</translation>
    </message>
    <message>
        <source>distance</source>
        <translation>Abstand</translation>
    </message>
    <message>
        <source>radius</source>
        <translation>Radius</translation>
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
        <source>angle</source>
        <translation>Winkel</translation>
    </message>
    <message>
        <source>coaxial</source>
        <translation>fluchtend</translation>
    </message>
    <message>
        <source>coplanar</source>
        <translation>in einer Ebene</translation>
    </message>
    <message>
        <source>equal size</source>
        <translation>gleich groß</translation>
    </message>
    <message>
        <source>size</source>
        <translation>Größe</translation>
    </message>
    <message>
        <source>midplane</source>
        <translation>Mittelebene</translation>
    </message>
    <message>
        <source>axis of two</source>
        <translation>Achse durch zwei</translation>
    </message>
    <message>
        <source>common axis</source>
        <translation>gemeinsame Achse</translation>
    </message>
    <message>
        <source>bolt circle</source>
        <translation>Lochkreis</translation>
    </message>
    <message>
        <source>intersection</source>
        <translation>Schnittpunkt</translation>
    </message>
    <message>
        <source>symmetry plane</source>
        <translation>Symmetrieebene</translation>
    </message>
    <message>
        <source>datum targets</source>
        <translation>Bezugsstellen</translation>
    </message>
    <message>
        <source>Combine</source>
        <translation>Verknüpfung</translation>
    </message>
    <message>
        <source>join bodies, cut one by others, or keep what they share</source>
        <translation>Körper verbinden, einen durch andere beschneiden oder Gemeinsames behalten</translation>
    </message>
    <message>
        <source>Chamfer</source>
        <translation>Fase</translation>
    </message>
    <message>
        <source>bevel edges with a leg and an angle</source>
        <translation>Kanten mit Schenkel und Winkel abschrägen</translation>
    </message>
    <message>
        <source>Draft</source>
        <translation>Formschräge</translation>
    </message>
    <message>
        <source>tilt walls from a neutral plane</source>
        <translation>Wände von einer neutralen Ebene aus neigen</translation>
    </message>
    <message>
        <source>Extrude</source>
        <translation>Extrusion</translation>
    </message>
    <message>
        <source>move closed areas of a sketch along its normal</source>
        <translation>geschlossene Flächen einer Skizze längs ihrer Normalen bewegen</translation>
    </message>
    <message>
        <source>Fillet</source>
        <translation>Verrundung</translation>
    </message>
    <message>
        <source>round edges with one radius, or one that grows along them</source>
        <translation>Kanten mit einem Radius verrunden oder mit einem, der an ihnen entlang wächst</translation>
    </message>
    <message>
        <source>Hole</source>
        <translation>Bohrung</translation>
    </message>
    <message>
        <source>Import</source>
        <translation>Einlesen</translation>
    </message>
    <message>
        <source>bring a model from a file into the Route</source>
        <translation>ein Modell aus einer Datei in den Arbeitsplan bringen</translation>
    </message>
    <message>
        <source>Mirror</source>
        <translation>Spiegelung</translation>
    </message>
    <message>
        <source>mirror a step or the whole part in a plane</source>
        <translation>einen Schritt oder das ganze Teil an einer Ebene spiegeln</translation>
    </message>
    <message>
        <source>Move body</source>
        <translation>Körper bewegen</translation>
    </message>
    <message>
        <source>shift and turn bodies, or copies of them</source>
        <translation>Körper oder Kopien davon schieben und drehen</translation>
    </message>
    <message>
        <source>Offset</source>
        <translation>Versetzen</translation>
    </message>
    <message>
        <source>move faces of the model along their normals</source>
        <translation>Flächen des Modells längs ihrer Normalen versetzen</translation>
    </message>
    <message>
        <source>Pattern</source>
        <translation>Muster</translation>
    </message>
    <message>
        <source>repeat a step in a row, round an axis, at points or along a curve</source>
        <translation>einen Schritt in einer Reihe, um eine Achse, an Punkten oder entlang einer Kurve wiederholen</translation>
    </message>
    <message>
        <source>Remove body</source>
        <translation>Körper entfernen</translation>
    </message>
    <message>
        <source>take bodies out of the model</source>
        <translation>Körper aus dem Modell nehmen</translation>
    </message>
    <message>
        <source>Revolve</source>
        <translation>Drehung</translation>
    </message>
    <message>
        <source>turn closed areas about a line of their sketch</source>
        <translation>geschlossene Flächen um eine Linie ihrer Skizze drehen</translation>
    </message>
    <message>
        <source>Sew</source>
        <translation>Vernähen</translation>
    </message>
    <message>
        <source>join surface bodies along their edges, to a solid when they close</source>
        <translation>Flächenkörper an ihren Kanten verbinden, zum Vollkörper, wenn sie schließen</translation>
    </message>
    <message>
        <source>Shell</source>
        <translation>Schale</translation>
    </message>
    <message>
        <source>hollow the part to a wall of one thickness</source>
        <translation>das Teil auf eine Wand gleicher Dicke aushöhlen</translation>
    </message>
    <message>
        <source>Split</source>
        <translation>Teilung</translation>
    </message>
    <message>
        <source>part bodies along a plane, a face or a surface</source>
        <translation>Körper an einer Ebene, Fläche oder einem Flächenkörper teilen</translation>
    </message>
    <message>
        <source>Thicken</source>
        <translation>Aufdicken</translation>
    </message>
    <message>
        <source>lay material of one thickness over faces</source>
        <translation>Werkstoff einer Dicke auf Flächen legen</translation>
    </message>
    <message>
        <source>Cut</source>
        <translation>Ausschnitt</translation>
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
        <source>others</source>
        <translation>andere</translation>
    </message>
    <message>
        <source>surface_bodies</source>
        <translation>Flächenkörper</translation>
    </message>
    <message>
        <source>kind</source>
        <translation>Art</translation>
    </message>
    <message>
        <source>linear</source>
        <translation>in einer Reihe</translation>
    </message>
    <message>
        <source>circular</source>
        <translation>im Kreis</translation>
    </message>
    <message>
        <source>operation</source>
        <translation>Werkstoff</translation>
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
        <translation>Gemeinsames</translation>
    </message>
    <message>
        <source>new body</source>
        <translation>neuer Körper</translation>
    </message>
    <message>
        <source>reach</source>
        <translation>Reichweite</translation>
    </message>
    <message>
        <source>levels</source>
        <translation>Höhen</translation>
    </message>
    <message>
        <source>up to</source>
        <translation>bis zu</translation>
    </message>
    <message>
        <source>through</source>
        <translation>durch</translation>
    </message>
    <message>
        <source>result</source>
        <translation>Ergebnis</translation>
    </message>
    <message>
        <source>join</source>
        <translation>verbinden</translation>
    </message>
    <message>
        <source>side</source>
        <translation>Seite</translation>
    </message>
    <message>
        <source>outwards</source>
        <translation>nach außen</translation>
    </message>
    <message>
        <source>inwards</source>
        <translation>nach innen</translation>
    </message>
    <message>
        <source>both sides</source>
        <translation>beide Seiten</translation>
    </message>
    <message>
        <source>count</source>
        <translation>Anzahl</translation>
    </message>
    <message>
        <source>edges</source>
        <translation>Kanten</translation>
    </message>
    <message>
        <source>faces</source>
        <translation>Flächen</translation>
    </message>
    <message>
        <source>open</source>
        <translation>offen</translation>
    </message>
    <message>
        <source>both_ways</source>
        <translation>beidseitig</translation>
    </message>
    <message>
        <source>copy</source>
        <translation>Kopie</translation>
    </message>
    <message>
        <source>keep_others</source>
        <translation>andere behalten</translation>
    </message>
    <message>
        <source>keep_surfaces</source>
        <translation>Flächen behalten</translation>
    </message>
    <message>
        <source>model</source>
        <translation>Modell</translation>
    </message>
    <message>
        <source>diameter</source>
        <translation>Durchmesser</translation>
    </message>
    <message>
        <source>draft</source>
        <translation>Schräge</translation>
    </message>
    <message>
        <source>at</source>
        <translation>bei</translation>
    </message>
    <message>
        <source>from</source>
        <translation>von</translation>
    </message>
    <message>
        <source>gap</source>
        <translation>Spalt</translation>
    </message>
    <message>
        <source>leg</source>
        <translation>Schenkel</translation>
    </message>
    <message>
        <source>middle</source>
        <translation>Mitte</translation>
    </message>
    <message>
        <source>spacing</source>
        <translation>Teilung</translation>
    </message>
    <message>
        <source>thickness</source>
        <translation>Dicke</translation>
    </message>
    <message>
        <source>to</source>
        <translation>bis</translation>
    </message>
    <message>
        <source>x</source>
        <translation>x</translation>
    </message>
    <message>
        <source>y</source>
        <translation>y</translation>
    </message>
    <message>
        <source>z</source>
        <translation>z</translation>
    </message>
    <message>
        <source>axis</source>
        <translation>Achse</translation>
    </message>
    <message>
        <source>direction</source>
        <translation>Richtung</translation>
    </message>
    <message>
        <source>neutral</source>
        <translation>neutral</translation>
    </message>
    <message>
        <source>target</source>
        <translation>Ziel</translation>
    </message>
    <message>
        <source>sketch</source>
        <translation>Skizze</translation>
    </message>
    <message>
        <source>source</source>
        <translation>Quelle</translation>
    </message>
    <message>
        <source>Loft</source>
        <translation>Loft</translation>
    </message>
    <message>
        <source>Sweep</source>
        <translation>Austragen</translation>
    </message>
    <message>
        <source>a bent pipe or bar along its centre line</source>
        <translation>ein gebogenes Rohr oder eine Stange entlang der Mittellinie</translation>
    </message>
    <message>
        <source>a free-form face through an area of the scan</source>
        <translation>eine Freiformfläche durch einen Bereich des Scans</translation>
    </message>
    <message>
        <source>bend</source>
        <translation>Biegung</translation>
    </message>
    <message>
        <source>go over from section to section, each a sketch</source>
        <translation>von Schnitt zu Schnitt übergehen, jeder eine Skizze</translation>
    </message>
    <message>
        <source>hold</source>
        <translation>Haltung</translation>
    </message>
    <message>
        <source>move closed areas of a sketch along a path</source>
        <translation>geschlossene Flächen einer Skizze entlang eines Weges bewegen</translation>
    </message>
    <message>
        <source>parallel to itself</source>
        <translation>parallel zu sich</translation>
    </message>
    <message>
        <source>path</source>
        <translation>Weg</translation>
    </message>
    <message>
        <source>ruled</source>
        <translation>geradlinig</translation>
    </message>
    <message>
        <source>sections</source>
        <translation>Schnitte</translation>
    </message>
    <message>
        <source>square to the path</source>
        <translation>senkrecht zum Weg</translation>
    </message>
    <message>
        <source>wall</source>
        <translation>Wand</translation>
    </message>
    <message>
        <source>Pipe</source>
        <translation>Rohr</translation>
    </message>
    <message>
        <source>Patch</source>
        <translation>Freiformfläche</translation>
    </message>
    <message>
        <source>sweep</source>
        <translation>austragen</translation>
    </message>
    <message>
        <source>loft</source>
        <translation>Loft</translation>
    </message>
    <message>
        <source>pipe</source>
        <translation>Rohr</translation>
    </message>
    <message>
        <source>patch</source>
        <translation>Freiformfläche</translation>
    </message>
    <message>
        <source>collinear</source>
        <translation>in einer Flucht</translation>
    </message>
    <message>
        <source>distance along x</source>
        <translation>Abstand längs x</translation>
    </message>
    <message>
        <source>distance along y</source>
        <translation>Abstand längs y</translation>
    </message>
    <message>
        <source>arc length</source>
        <translation>Bogenlänge</translation>
    </message>
    <message>
        <source>smooth</source>
        <translation>glatt</translation>
    </message>
    <message>
        <source>fixed</source>
        <translation>fest</translation>
    </message>
    <message>
        <source>fewest curves</source>
        <translation>wenigste Kurven</translation>
    </message>
    <message>
        <source>arc</source>
        <translation>Bogen</translation>
    </message>
    <message>
        <source>spline</source>
        <translation>Spline</translation>
    </message>
    <message>
        <source>rectangle</source>
        <translation>Rechteck</translation>
    </message>
    <message>
        <source>slot</source>
        <translation>Langloch</translation>
    </message>
    <message>
        <source>polygon</source>
        <translation>Vieleck</translation>
    </message>
    <message>
        <source>profile</source>
        <translation>Profil</translation>
    </message>
    <message>
        <source>bottom</source>
        <translation>Grund</translation>
    </message>
    <message>
        <source>drilled</source>
        <translation>gebohrt</translation>
    </message>
    <message>
        <source>flat</source>
        <translation>flach</translation>
    </message>
    <message>
        <source>head</source>
        <translation>Senkung</translation>
    </message>
    <message>
        <source>none</source>
        <translation>keine</translation>
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
        <source>head_diameter</source>
        <translation>Senkdurchmesser</translation>
    </message>
    <message>
        <source>head_depth</source>
        <translation>Senktiefe</translation>
    </message>
    <message>
        <source>head_angle</source>
        <translation>Senkwinkel</translation>
    </message>
    <message>
        <source>entry</source>
        <translation>Ansatz</translation>
    </message>
    <message>
        <source>from_below</source>
        <translation>von unten</translation>
    </message>
    <message>
        <source>thread</source>
        <translation>Gewinde</translation>
    </message>
    <message>
        <source>bore holes about circles or points of a sketch, with a seat for a screw&#x27;s head or a thread</source>
        <translation>Bohrungen um Kreise oder Punkte einer Skizze, mit Sitz für einen Schraubenkopf oder Gewinde</translation>
    </message>
    <message>
        <source>M3</source>
        <translation>M3</translation>
    </message>
    <message>
        <source>M4</source>
        <translation>M4</translation>
    </message>
    <message>
        <source>M5</source>
        <translation>M5</translation>
    </message>
    <message>
        <source>M6</source>
        <translation>M6</translation>
    </message>
    <message>
        <source>M8</source>
        <translation>M8</translation>
    </message>
    <message>
        <source>M10</source>
        <translation>M10</translation>
    </message>
    <message>
        <source>M12</source>
        <translation>M12</translation>
    </message>
    <message>
        <source>M14</source>
        <translation>M14</translation>
    </message>
    <message>
        <source>M16</source>
        <translation>M16</translation>
    </message>
    <message>
        <source>M18</source>
        <translation>M18</translation>
    </message>
    <message>
        <source>M20</source>
        <translation>M20</translation>
    </message>
    <message>
        <source>M24</source>
        <translation>M24</translation>
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
        <source>Rib</source>
        <translation>Rippe</translation>
    </message>
    <message>
        <source>rib</source>
        <translation>Rippe</translation>
    </message>
    <message>
        <source>a wall from an open outline down to the part</source>
        <translation>eine Wand von einem offenen Umriss bis zum Teil</translation>
    </message>
    <message>
        <source>Flat face</source>
        <translation>Ebene Fläche</translation>
    </message>
    <message>
        <source>flat face</source>
        <translation>ebene Fläche</translation>
    </message>
    <message>
        <source>fill the outlines of a sketch with a surface</source>
        <translation>die Umrisse einer Skizze mit einer Fläche füllen</translation>
    </message>
    <message>
        <source>Offset surface</source>
        <translation>Versetzte Fläche</translation>
    </message>
    <message>
        <source>offset surface</source>
        <translation>versetzte Fläche</translation>
    </message>
    <message>
        <source>faces once more, at a distance, as a surface body</source>
        <translation>Flächen noch einmal, mit Abstand, als Flächenkörper</translation>
    </message>
    <message>
        <source>Scale body</source>
        <translation>Körper skalieren</translation>
    </message>
    <message>
        <source>scale body</source>
        <translation>Körper skalieren</translation>
    </message>
    <message>
        <source>make bodies larger or smaller: one length becomes another</source>
        <translation>Körper größer oder kleiner machen: aus einer Länge wird eine andere</translation>
    </message>
    <message>
        <source>level</source>
        <translation>Höhe</translation>
    </message>
    <message>
        <source>Level</source>
        <translation>Höhe</translation>
    </message>
    <message>
        <source>other side</source>
        <translation>andere Seite</translation>
    </message>
    <message>
        <source>Other side</source>
        <translation>Andere Seite</translation>
    </message>
    <message>
        <source>Sketch</source>
        <translation>Skizze</translation>
    </message>
    <message>
        <source>From</source>
        <translation>Von</translation>
    </message>
    <message>
        <source>To</source>
        <translation>Bis</translation>
    </message>
    <message>
        <source>Thickness</source>
        <translation>Dicke</translation>
    </message>
    <message>
        <source>Distance</source>
        <translation>Abstand</translation>
    </message>
    <message>
        <source>Curve</source>
        <translation>Kurve</translation>
    </message>
    <message>
        <source>a curve in space through places, for sweeps, pipes and lofts</source>
        <translation>eine Kurve im Raum durch Stellen, für Züge, Rohre und Übergänge</translation>
    </message>
    <message>
        <source>runs</source>
        <translation>verläuft</translation>
    </message>
    <message>
        <source>straight</source>
        <translation>gerade</translation>
    </message>
    <message>
        <source>closed</source>
        <translation>geschlossen</translation>
    </message>
    <message>
        <source>along</source>
        <translation>entlang</translation>
    </message>
    <message>
        <source>spine</source>
        <translation>Leitkurve</translation>
    </message>
    <message>
        <source>Ruled surface</source>
        <translation>Regelfläche</translation>
    </message>
    <message>
        <source>straight from one curve in space to another</source>
        <translation>gerade von einer Kurve im Raum zur anderen</translation>
    </message>
    <message>
        <source>ruled surface</source>
        <translation>Regelfläche</translation>
    </message>
    <message>
        <source>curves</source>
        <translation>Kurven</translation>
    </message>
    <message>
        <source>other way</source>
        <translation>andersherum</translation>
    </message>
    <message>
        <source>Fill</source>
        <translation>Füllen</translation>
    </message>
    <message>
        <source>a smooth surface inside curves and edges that close</source>
        <translation>eine glatte Fläche innerhalb von Kurven und Kanten, die sich schließen</translation>
    </message>
    <message>
        <source>filled surface</source>
        <translation>Füllfläche</translation>
    </message>
    <message>
        <source>keeps</source>
        <translation>behält</translation>
    </message>
    <message>
        <source>far side</source>
        <translation>die ferne Seite</translation>
    </message>
    <message>
        <source>near side</source>
        <translation>die nahe Seite</translation>
    </message>
    <message>
        <source>at points</source>
        <translation>an Punkten</translation>
    </message>
    <message>
        <source>along a curve</source>
        <translation>entlang einer Kurve</translation>
    </message>
    <message>
        <source>points</source>
        <translation>Punkte</translation>
    </message>
    <message>
        <source>turns</source>
        <translation>dreht mit</translation>
    </message>
    <message>
        <source>grows</source>
        <translation>wächst</translation>
    </message>
    <message>
        <source>end radius</source>
        <translation>Endradius</translation>
    </message>
    <message>
        <source>other end</source>
        <translation>anderes Ende</translation>
    </message>
    <message>
        <source>Free body</source>
        <translation>Freiformkörper</translation>
    </message>
    <message>
        <source>a closed scan of a free shape as smooth patches</source>
        <translation>ein geschlossener Scan einer freien Form als glatte Flächenstücke</translation>
    </message>
    <message>
        <source>free body</source>
        <translation>Freiformkörper</translation>
    </message>
    <message>
        <source>Primitive</source>
        <translation>Grundkörper</translation>
    </message>
    <message>
        <source>a block, cylinder, cone, ball or ring straight from a surface</source>
        <translation>Quader, Zylinder, Kegel, Kugel oder Ring gleich aus einer Fläche</translation>
    </message>
    <message>
        <source>block</source>
        <translation>Quader</translation>
    </message>
    <message>
        <source>ball</source>
        <translation>Kugel</translation>
    </message>
    <message>
        <source>ring</source>
        <translation>Ring</translation>
    </message>
    <message>
        <source>block cut</source>
        <translation>Quaderschnitt</translation>
    </message>
    <message>
        <source>cylinder cut</source>
        <translation>Zylinderschnitt</translation>
    </message>
    <message>
        <source>cone cut</source>
        <translation>Kegelschnitt</translation>
    </message>
    <message>
        <source>ball cut</source>
        <translation>Kugelschnitt</translation>
    </message>
    <message>
        <source>ring cut</source>
        <translation>Ringschnitt</translation>
    </message>
    <message>
        <source>block surface</source>
        <translation>Quaderfläche</translation>
    </message>
    <message>
        <source>cylinder surface</source>
        <translation>Zylinderfläche</translation>
    </message>
    <message>
        <source>cone surface</source>
        <translation>Kegelfläche</translation>
    </message>
    <message>
        <source>ball surface</source>
        <translation>Kugelfläche</translation>
    </message>
    <message>
        <source>ring surface</source>
        <translation>Ringfläche</translation>
    </message>
    <message>
        <source>Move faces</source>
        <translation>Flächen verschieben</translation>
    </message>
    <message>
        <source>move a hole, boss or flat face as it is</source>
        <translation>eine Bohrung, einen Ansatz oder eine ebene Fläche verschieben, wie sie ist</translation>
    </message>
    <message>
        <source>moved faces</source>
        <translation>verschobene Flächen</translation>
    </message>
    <message>
        <source>Replace face</source>
        <translation>Fläche ersetzen</translation>
    </message>
    <message>
        <source>put a surface in the place of a face</source>
        <translation>eine Fläche an die Stelle einer anderen setzen</translation>
    </message>
    <message>
        <source>replaced face</source>
        <translation>ersetzte Fläche</translation>
    </message>
    <message>
        <source>part or trim bodies along a plane, a face or a surface</source>
        <translation>Körper entlang einer Ebene oder Fläche teilen oder beschneiden</translation>
    </message>
    <message>
        <source>shape</source>
        <translation>Form</translation>
    </message>
    <message>
        <source>on</source>
        <translation>auf</translation>
    </message>
    <message>
        <source>tube</source>
        <translation>Rohr</translation>
    </message>
    <message>
        <source>half_angle</source>
        <translation>halber Winkel</translation>
    </message>
    <message>
        <source>x_from</source>
        <translation>x von</translation>
    </message>
    <message>
        <source>x_to</source>
        <translation>x bis</translation>
    </message>
    <message>
        <source>y_from</source>
        <translation>y von</translation>
    </message>
    <message>
        <source>y_to</source>
        <translation>y bis</translation>
    </message>
    <message>
        <source>z_from</source>
        <translation>z von</translation>
    </message>
    <message>
        <source>z_to</source>
        <translation>z bis</translation>
    </message>
    <message>
        <source>with</source>
        <translation>mit</translation>
    </message>
    <message>
        <source>guides</source>
        <translation>Leitkurven</translation>
    </message>
    <message>
        <source>square_start</source>
        <translation>Anfang senkrecht</translation>
    </message>
    <message>
        <source>beyond_start</source>
        <translation>über den Anfang</translation>
    </message>
    <message>
        <source>beyond_end</source>
        <translation>über das Ende</translation>
    </message>
    <message>
        <source>outline</source>
        <translation>Umriss</translation>
    </message>
    <message>
        <source>twist</source>
        <translation>Verdrehung</translation>
    </message>
    <message>
        <source>about</source>
        <translation>um</translation>
    </message>
    <message>
        <source>5H</source>
        <translation>5H</translation>
    </message>
    <message>
        <source>6G</source>
        <translation>6G</translation>
    </message>
    <message>
        <source>6H</source>
        <translation>6H</translation>
    </message>
    <message>
        <source>7H</source>
        <translation>7H</translation>
    </message>
    <message>
        <source>thread_class</source>
        <translation>Toleranzklasse</translation>
    </message>
    <message>
        <source>modelled</source>
        <translation>modelliert</translation>
    </message>
    <message>
        <source>square_end</source>
        <translation>Ende senkrecht</translation>
    </message>
    <message>
        <source>beyond</source>
        <translation>darüber hinaus</translation>
    </message>
    <message>
        <source>scan at the face</source>
        <translation>Scan an der Fläche</translation>
    </message>
    <message>
        <source>end of the scan</source>
        <translation>Ende des Scans</translation>
    </message>
    <message>
        <source>a round level of the surface</source>
        <translation>eine runde Höhe der Fläche</translation>
    </message>
    <message>
        <source>end of the surface on the scan</source>
        <translation>Ende der Fläche auf dem Scan</translation>
    </message>
    <message>
        <source>in_part</source>
        <translation>in Teilen</translation>
    </message>
    <message>
        <source>pipe in part</source>
        <translation>Rohrstück</translation>
    </message>
    <message>
        <source>scan along the pipe</source>
        <translation>Scan am Rohr entlang</translation>
    </message>
</context>
</TS>
