<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="de_DE" sourcelanguage="en">
<context>
    <name>sentences</name>
    <message>
        <source>A surface needs at least four points; there are %1.</source>
        <translation>Eine Oberfläche braucht mindestens vier Punkte; es sind %1.</translation>
    </message>
    <message>
        <source>Spacing and averaging may not be negative, and gaps up to 1.5 spacings must be bridged at least.</source>
        <translation>Punktabstand und Mittelung dürfen nicht negativ sein, und Lücken bis zu 1,5 Abständen müssen mindestens überbrückt werden.</translation>
    </message>
    <message>
        <source>A point has a coordinate that is not a number.</source>
        <translation>Ein Punkt hat eine Koordinate, die keine Zahl ist.</translation>
    </message>
    <message>
        <source>All points lie in one place: they show no surface.</source>
        <translation>Alle Punkte liegen an einer Stelle: sie zeigen keine Oberfläche.</translation>
    </message>
    <message>
        <source>The points show no surface: they lie on lines, or too far from each other.</source>
        <translation>Die Punkte zeigen keine Oberfläche: sie liegen auf Linien oder zu weit voneinander.</translation>
    </message>
    <message>
        <source>The points join to no surface: they lie too far from each other, or on lines. Bridge more spacings.</source>
        <translation>Die Punkte schließen sich zu keiner Oberfläche: sie liegen zu weit voneinander oder auf Linien. Mehr Abstände überbrücken.</translation>
    </message>
    <message>
        <source>A curve goes through %1 places at least; there are %2.</source>
        <translation>Eine Kurve geht durch mindestens %1 Stellen; es sind %2.</translation>
    </message>
    <message>
        <source>A place has a coordinate that is not a number.</source>
        <translation>Eine Stelle hat eine Koordinate, die keine Zahl ist.</translation>
    </message>
    <message>
        <source>Places %1 and %2 of the curve are the same.</source>
        <translation>Die Stellen %1 und %2 der Kurve sind dieselbe.</translation>
    </message>
    <message>
        <source>The tolerance of a curve must be above 0.</source>
        <translation>Die Toleranz einer Kurve muss über 0 liegen.</translation>
    </message>
    <message>
        <source>A curve is told by four points at least; there are %1.</source>
        <translation>Eine Kurve braucht mindestens vier Punkte; es sind %1.</translation>
    </message>
    <message>
        <source>turn about the axis along %1 through %2</source>
        <translation>Drehung um die Achse längs %1 durch %2</translation>
    </message>
    <message>
        <source>shift along %1</source>
        <translation>Verschiebung längs %1</translation>
    </message>
    <message>
        <source>Only %1 points of the scan lie within %2 mm of the model. Place it closer first, or search further.</source>
        <translation>Nur %1 Punkte des Scans liegen innerhalb %2 mm vom Modell. Ihn erst näher legen oder weiter suchen.</translation>
    </message>
    <message>
        <source>A midplane lies between two planes: pick two.</source>
        <translation>Eine Mittelebene liegt zwischen zwei Ebenen: zwei wählen.</translation>
    </message>
    <message>
        <source>Both planes are one: there is nothing between them.</source>
        <translation>Beide Ebenen sind eine: dazwischen ist nichts.</translation>
    </message>
    <message>
        <source>A line through two centres needs holes, circles, spheres or points: a plane has no centre.</source>
        <translation>Eine Gerade durch zwei Mitten braucht Bohrungen, Kreise, Kugeln oder Punkte: eine Ebene hat keine Mitte.</translation>
    </message>
    <message>
        <source>The centres are taken in a plane: pick a plane third.</source>
        <translation>Die Mitten werden in einer Ebene genommen: als Drittes eine Ebene wählen.</translation>
    </message>
    <message>
        <source>Both centres are one: they give no direction.</source>
        <translation>Beide Mitten sind eine: sie geben keine Richtung.</translation>
    </message>
    <message>
        <source>A common axis needs two features or more.</source>
        <translation>Eine gemeinsame Achse braucht zwei Elemente oder mehr.</translation>
    </message>
    <message>
        <source>Only features with an axis have one in common.</source>
        <translation>Nur Elemente mit einer Achse haben eine gemeinsam.</translation>
    </message>
    <message>
        <source>The axes differ by more than 5 degrees: they are not one axis.</source>
        <translation>Die Achsen weichen um mehr als 5 Grad voneinander ab: sie sind nicht eine Achse.</translation>
    </message>
    <message>
        <source>A bolt circle needs three holes or more.</source>
        <translation>Ein Lochkreis braucht drei Bohrungen oder mehr.</translation>
    </message>
    <message>
        <source>A plane among the holes of a bolt circle.</source>
        <translation>Eine Ebene unter den Bohrungen eines Lochkreises.</translation>
    </message>
    <message>
        <source>The holes are not parallel: they lie on no one circle.</source>
        <translation>Die Bohrungen sind nicht parallel: sie liegen auf keinem gemeinsamen Kreis.</translation>
    </message>
    <message>
        <source>The holes lie in one line: no circle goes through them.</source>
        <translation>Die Bohrungen liegen auf einer Geraden: kein Kreis geht durch sie.</translation>
    </message>
    <message>
        <source>Two of the planes are parallel: they meet in no point.</source>
        <translation>Zwei der Ebenen sind parallel: sie treffen sich in keinem Punkt.</translation>
    </message>
    <message>
        <source>The axis lies along the plane: they meet in no point.</source>
        <translation>Die Achse liegt längs der Ebene: sie treffen sich in keinem Punkt.</translation>
    </message>
    <message>
        <source>The axes are parallel: they meet in no point.</source>
        <translation>Die Achsen sind parallel: sie treffen sich in keinem Punkt.</translation>
    </message>
    <message>
        <source>A point of intersection needs three planes, a plane and an axis, or two axes.</source>
        <translation>Ein Schnittpunkt braucht drei Ebenen, eine Ebene und eine Achse oder zwei Achsen.</translation>
    </message>
    <message>
        <source>The secondary is missing: pick a plane square to the primary, an axis across it, or two parallel axes.</source>
        <translation>Der zweite Bezug fehlt: eine Ebene rechtwinklig zum ersten wählen, eine Achse quer dazu oder zwei parallele Achsen.</translation>
    </message>
    <message>
        <source>The two secondary axes coincide; pick two that lie apart.</source>
        <translation>Die beiden Achsen des zweiten Bezugs fallen zusammen; zwei wählen, die auseinanderliegen.</translation>
    </message>
    <message>
        <source>line between two axes</source>
        <translation>Gerade zwischen zwei Achsen</translation>
    </message>
    <message>
        <source>The secondary is parallel to the primary and fixes no rotation. Pick a plane square to it or a second axis.</source>
        <translation>Der zweite Bezug ist parallel zum ersten und hält keine Drehung. Eine Ebene rechtwinklig dazu oder eine zweite Achse wählen.</translation>
    </message>
    <message>
        <source>normal of the secondary plane</source>
        <translation>Normale der zweiten Bezugsebene</translation>
    </message>
    <message>
        <source>axis of the secondary</source>
        <translation>Achse des zweiten Bezugs</translation>
    </message>
    <message>
        <source>"%1" is no axis; write +x, -x, +y, -y, +z or -z.</source>
        <translation>„%1“ ist keine Achse; +x, -x, +y, -y, +z oder -z schreiben.</translation>
    </message>
    <message>
        <source>Primary and secondary become the same axis; choose two different ones.</source>
        <translation>Erster und zweiter Bezug werden dieselbe Achse; zwei verschiedene wählen.</translation>
    </message>
    <message>
        <source>A sphere or point has no direction: it can fix the origin, not a turn.</source>
        <translation>Eine Kugel oder ein Punkt hat keine Richtung: sie hält den Ursprung, keine Drehung.</translation>
    </message>
    <message>
        <source>normal of the primary plane</source>
        <translation>Normale der ersten Bezugsebene</translation>
    </message>
    <message>
        <source>axis of the primary</source>
        <translation>Achse des ersten Bezugs</translation>
    </message>
    <message>
        <source>origin fits</source>
        <translation>Ursprungselemente</translation>
    </message>
    <message>
        <source>, least %1</source>
        <translation>, kleinste %1</translation>
    </message>
    <message>
        <source>The origin is not fixed in every direction. Add an axis or another plane as origin, or let the scan's extremes fix it.</source>
        <translation>Der Ursprung liegt nicht in jeder Richtung fest. Eine Achse oder eine weitere Ebene als Ursprung hinzufügen oder die Grenzen des Scans gelten lassen.</translation>
    </message>
    <message>
        <source>A point and a feature do not make a pair.</source>
        <translation>Ein Punkt und ein Element ergeben kein Paar.</translation>
    </message>
    <message>
        <source>A %1 and a %2 do not make a pair.</source>
        <translation>%1 und %2 ergeben kein Paar.</translation>
    </message>
    <message>
        <source>%1 pair%2 of points leave%3 the turn open: give at least three that lie apart and not on one line.</source>
        <translation>%1 Punktpaar(e) lassen die Drehung offen: mindestens drei angeben, die auseinander und nicht auf einer Geraden liegen.</translation>
    </message>
    <message>
        <source>The points lie within %1 mm of a part of %2 mm: a small error would turn it far. Choose points further apart.</source>
        <translation>Die Punkte liegen innerhalb %1 mm auf einem Teil von %2 mm: ein kleiner Fehler würde es weit drehen. Punkte weiter auseinander wählen.</translation>
    </message>
    <message>
        <source>The points lie on one line: the turn about it stays open. Add one beside it.</source>
        <translation>Die Punkte liegen auf einer Geraden: die Drehung um sie bleibt offen. Einen daneben hinzufügen.</translation>
    </message>
    <message>
        <source>Say which points or features belong together.</source>
        <translation>Sagen, welche Punkte oder Elemente zusammengehören.</translation>
    </message>
    <message>
        <source>The pairs hold %1 of six motions. Add a feature in another direction, or a point that lies apart.</source>
        <translation>Die Paare halten %1 von sechs Bewegungen. Ein Element in einer anderen Richtung hinzufügen oder einen Punkt, der abseits liegt.</translation>
    </message>
    <message>
        <source>Scan and model have no planes, cylinders or cones to match. Say which points or features belong together.</source>
        <translation>Scan und Modell haben keine Ebenen, Zylinder oder Kegel, die sich zuordnen lassen. Sagen, welche Punkte oder Elemente zusammengehören.</translation>
    </message>
    <message>
        <source>No way was found in which the scan lies on the model. Check the unit of the scan, or say which features belong together.</source>
        <translation>Es fand sich keine Lage, in der der Scan auf dem Modell liegt. Die Einheit des Scans prüfen oder sagen, welche Elemente zusammengehören.</translation>
    </message>
    <message>
        <source>No way was found in which the scan lies on the model: at best %1 % of it agrees within %2 mm. Check the unit of the scan, or say which features belong together.</source>
        <translation>Es fand sich keine Lage, in der der Scan auf dem Modell liegt: bestenfalls stimmen %1 % davon innerhalb %2 mm überein. Die Einheit des Scans prüfen oder sagen, welche Elemente zusammengehören.</translation>
    </message>
    <message>
        <source>What this rests on is not certain enough for it: within the uncertainty of the %1 that is number %2 it cannot be made at all. %3</source>
        <translation>Worauf dies ruht, ist dafür nicht sicher genug: innerhalb der Unsicherheit von %1 Nummer %2 lässt es sich gar nicht bilden. %3</translation>
    </message>
    <message>
        <source>%1 side square to the primary</source>
        <translation>%1 Seite rechtwinklig zum ersten Bezug</translation>
    </message>
    <message>
        <source>%1 cross hole square to the primary</source>
        <translation>%1 Querbohrung rechtwinklig zum ersten Bezug</translation>
    </message>
    <message>
        <source>line %1</source>
        <translation>Gerade %1</translation>
    </message>
    <message>
        <source>: %1 of the walls and rows of holes %2 that direction</source>
        <translation>: %1 der Wände und Lochreihen haben diese Richtung</translation>
    </message>
    <message>
        <source>a good part</source>
        <translation>ein guter Teil</translation>
    </message>
    <message>
        <source>%1 %2 of %3 mm radius: its axis is the origin</source>
        <translation>%1 %2 mit %3 mm Radius: seine Achse ist der Ursprung</translation>
    </message>
    <message>
        <source>, and its end face the zero along it</source>
        <translation>, und seine Stirnfläche die Null daran</translation>
    </message>
    <message>
        <source>%1, %2 mm²</source>
        <translation>%1, %2 mm²</translation>
    </message>
    <message>
        <source>%1 side square to both: it fixes the last shift</source>
        <translation>%1 Seite rechtwinklig zu beiden: sie hält die letzte Verschiebung</translation>
    </message>
    <message>
        <source>no third face: the scan's extreme fixes the last shift</source>
        <translation>keine dritte Fläche: die Grenze des Scans hält die letzte Verschiebung</translation>
    </message>
    <message>
        <source>%1 %2 of %3 mm²%4</source>
        <translation>%1 %2 mit %3 mm²%4</translation>
    </message>
    <message>
        <source> that the part can stand on</source>
        <translation> , auf der das Teil stehen kann</translation>
    </message>
    <message>
        <source>The place of a target lies nowhere near its scan.</source>
        <translation>Die Stelle einer Referenzmarke liegt nirgends in der Nähe ihres Scans.</translation>
    </message>
    <message>
        <source>What lies there is no ball whose centre could be told. Pick a place on a ball that the scan shows well.</source>
        <translation>Dort liegt keine Kugel, deren Mitte sich bestimmen ließe. Wählen Sie eine Stelle auf einer Kugel, die der Scan gut zeigt.</translation>
    </message>
    <message>
        <source>There is no round rim whose centre could be told. Pick the flat face close to a round hole or disc of which the scan shows half at least.</source>
        <translation>Dort ist kein runder Rand, dessen Mitte sich bestimmen ließe. Wählen Sie die ebene Fläche dicht neben einem runden Loch oder einer Scheibe, die der Scan mindestens zur Hälfte zeigt.</translation>
    </message>
    <message>
        <source>The scan hardly touches the other as it lies. Move it to where it belongs.</source>
        <translation>Der Scan berührt den anderen kaum, wie er liegt. Bewegen Sie ihn dorthin, wohin er gehört.</translation>
    </message>
    <message>
        <source>The scan has too few points for a plane of symmetry.</source>
        <translation>Der Scan hat zu wenige Punkte für eine Symmetrieebene.</translation>
    </message>
    <message>
        <source>No plane mirrors the scan upon itself: the best agrees for %1 % of it%2.</source>
        <translation>Keine Ebene spiegelt den Scan auf sich selbst: die beste passt für %1 % davon%2.</translation>
    </message>
    <message>
        <source> near the guess</source>
        <translation> nahe der Vermutung</translation>
    </message>
    <message>
        <source>. Give a guess, such as two faces</source>
        <translation>. Eine Vermutung angeben, etwa zwei Flächen</translation>
    </message>
    <message>
        <source>%1 lies on a face that looks another way than the plane of its targets. Choose a place that faces along it.</source>
        <translation>%1 liegt auf einer Fläche, die anders blickt als die Ebene ihrer Bezugsstellen. Eine Stelle wählen, die mit ihr blickt.</translation>
    </message>
    <message>
        <source>A1, A2 and A3 lie on one line: the turn about it stays open. Move one aside.</source>
        <translation>A1, A2 und A3 liegen auf einer Geraden: die Drehung um sie bleibt offen. Eine beiseite rücken.</translation>
    </message>
    <message>
        <source>B1 and B2 lie too near each other across the primary: the turn about its normal stays open. Move them apart.</source>
        <translation>B1 und B2 liegen quer zum ersten Bezug zu nah beieinander: die Drehung um seine Normale bleibt offen. Sie auseinander rücken.</translation>
    </message>
    <message>
        <source>There is no model to compare with yet.</source>
        <translation>Es gibt noch kein Modell zum Vergleichen.</translation>
    </message>
    <message>
        <source>The model's faces cannot be read for comparing: %1</source>
        <translation>Die Flächen des Modells lassen sich nicht zum Vergleichen lesen: %1</translation>
    </message>
    <message>
        <source>A %1 needs at least %2 points; there are %3.</source>
        <translation>%1 braucht mindestens %2 Punkte; es sind %3.</translation>
    </message>
    <message>
        <source>The points lie on a straight line.</source>
        <translation>Die Punkte liegen auf einer Geraden.</translation>
    </message>
    <message>
        <source>The points lie on no circle.</source>
        <translation>Die Punkte liegen auf keinem Kreis.</translation>
    </message>
    <message>
        <source>The patch is flat or too small for a sphere; select a larger cap.</source>
        <translation>Der Ausschnitt ist flach oder zu klein für eine Kugel; eine größere Kappe wählen.</translation>
    </message>
    <message>
        <source>The patch is too flat for a sphere.</source>
        <translation>Der Ausschnitt ist zu flach für eine Kugel.</translation>
    </message>
    <message>
        <source>The patch is too small or too even for a torus; select more of it.</source>
        <translation>Der Ausschnitt ist zu klein oder zu gleichmäßig für einen Torus; mehr davon wählen.</translation>
    </message>
    <message>
        <source>The points lie on no ellipse.</source>
        <translation>Die Punkte liegen auf keiner Ellipse.</translation>
    </message>
    <message>
        <source>The points coincide: no line is determined.</source>
        <translation>Die Punkte fallen zusammen: keine Gerade ist bestimmt.</translation>
    </message>
    <message>
        <source>The points lie on a straight line: no %1 is determined.</source>
        <translation>Die Punkte liegen auf einer Geraden: bestimmt ist damit nicht: %1.</translation>
    </message>
    <message>
        <source>A %1 needs surface normals or a start.</source>
        <translation>%1 braucht Normalen der Oberfläche oder einen Anfang.</translation>
    </message>
    <message>
        <source>The patch is flat or too narrow for a %1; select a wider arc.</source>
        <translation>Der Ausschnitt ist zu flach oder zu schmal für %1; einen weiteren Bogen wählen.</translation>
    </message>
    <message>
        <source>The patch has no measurable taper.</source>
        <translation>Der Ausschnitt hat keine messbare Verjüngung.</translation>
    </message>
    <message>
        <source>%1 by %2 ± %3 mm</source>
        <translation>%1 um %2 ± %3 mm</translation>
    </message>
    <message>
        <source>The start or the data hold a value that is not finite.</source>
        <translation>Der Anfang oder die Daten enthalten einen Wert, der nicht endlich ist.</translation>
    </message>
    <message>
        <source>There are fewer points than unknowns.</source>
        <translation>Es sind weniger Punkte als Unbekannte.</translation>
    </message>
    <message>
        <source>The points do not determine all parameters.</source>
        <translation>Die Punkte bestimmen nicht alle Größen.</translation>
    </message>
    <message>
        <source>The fit did not settle within the allowed iterations.</source>
        <translation>Der Ausgleich kam in den erlaubten Schritten nicht zur Ruhe.</translation>
    </message>
    <message>
        <source>A %1 cannot be %2</source>
        <translation>%1 kann nicht %2</translation>
    </message>
    <message>
        <source>%1. Pick other fits or another relation.</source>
        <translation>%1. Andere Elemente oder eine andere Beziehung wählen.</translation>
    </message>
    <message>
        <source>A relation names a fit that is not there.</source>
        <translation>Eine Beziehung nennt ein Element, das es nicht gibt.</translation>
    </message>
    <message>
        <source>A relation needs two different fits.</source>
        <translation>Eine Beziehung braucht zwei verschiedene Elemente.</translation>
    </message>
    <message>
        <source>The fits did not settle under these relations within %1 rounds. Take the last relation back.</source>
        <translation>Die Elemente kamen unter diesen Beziehungen in %1 Runden nicht zur Ruhe. Die letzte Beziehung zurücknehmen.</translation>
    </message>
    <message>
        <source>A fit has lost its points; fit it again.</source>
        <translation>Ein Element hat seine Punkte verloren; es neu ausgleichen.</translation>
    </message>
    <message>
        <source>The relations contradict each other, or no fit can obey them. Take the last one back.</source>
        <translation>Die Beziehungen widersprechen sich, oder kein Element kann ihnen folgen. Die letzte zurücknehmen.</translation>
    </message>
    <message>
        <source>parallel to</source>
        <translation>parallel zu</translation>
    </message>
    <message>
        <source>square to</source>
        <translation>rechtwinklig zu</translation>
    </message>
    <message>
        <source>at an angle to</source>
        <translation>im Winkel zu</translation>
    </message>
    <message>
        <source>on one axis with</source>
        <translation>auf einer Achse mit</translation>
    </message>
    <message>
        <source>in one plane with</source>
        <translation>in einer Ebene mit</translation>
    </message>
    <message>
        <source>of one size with</source>
        <translation>gleich groß wie</translation>
    </message>
    <message>
        <source>at a distance from</source>
        <translation>im Abstand von</translation>
    </message>
    <message>
        <source>of a fixed size</source>
        <translation>von fester Größe</translation>
    </message>
    <message>
        <source>mirrored from</source>
        <translation>gespiegelt von</translation>
    </message>
    <message>
        <source>A point is constructed, not fitted.</source>
        <translation>Ein Punkt wird konstruiert, nicht ausgeglichen.</translation>
    </message>
    <message>
        <source>There must be one weight for each point.</source>
        <translation>Zu jedem Punkt gehört ein Gewicht.</translation>
    </message>
    <message>
        <source>The points do not determine a %1: the patch is too narrow or flat. Select more of it.</source>
        <translation>Die Punkte bestimmen nicht: %1. Der Ausschnitt ist zu schmal oder flach. Mehr davon wählen.</translation>
    </message>
    <message>
        <source>The patch is too flat for a %1: fit a plane or select a wider arc.</source>
        <translation>Der Ausschnitt ist zu flach für %1: eine Ebene ausgleichen oder einen weiteren Bogen wählen.</translation>
    </message>
    <message>
        <source>The radius is not told by this evidence: %1 mm, uncertain by %2 mm, from an arc of %3 degrees. Select a wider arc, or hold the radius to a value.</source>
        <translation>Dieser Befund sagt den Radius nicht: %1 mm, unsicher um %2 mm, aus einem Bogen von %3 Grad. Einen weiteren Bogen wählen oder den Radius auf einem Wert halten.</translation>
    </message>
    <message>
        <source>half angle</source>
        <translation>halber Winkel</translation>
    </message>
    <message>
        <source>The instrument answered "%1 %2", which was not expected.</source>
        <translation>Das Gerät antwortete „%1 %2“, was nicht erwartet war.</translation>
    </message>
    <message>
        <source>The instrument says: %1</source>
        <translation>Das Gerät meldet: %1</translation>
    </message>
    <message>
        <source>The instrument does not end its introduction.</source>
        <translation>Das Gerät beendet seine Vorstellung nicht.</translation>
    </message>
    <message>
        <source>The name of a socket has 1 to %1 characters; "%2" has %3.</source>
        <translation>Der Name eines Anschlusses hat 1 bis %1 Zeichen; „%2“ hat %3.</translation>
    </message>
    <message>
        <source>No instrument answers at %1</source>
        <translation>Kein Gerät antwortet an %1</translation>
    </message>
    <message>
        <source>What answers does not end its lines; it is no instrument of this protocol.</source>
        <translation>Was antwortet, beendet seine Zeilen nicht; es ist kein Gerät dieses Protokolls.</translation>
    </message>
    <message>
        <source>The connection to the instrument broke</source>
        <translation>Die Verbindung zum Gerät ist abgerissen</translation>
    </message>
    <message>
        <source>The instrument says nothing any more.</source>
        <translation>Das Gerät sagt nichts mehr.</translation>
    </message>
    <message>
        <source>The instrument has closed the connection.</source>
        <translation>Das Gerät hat die Verbindung geschlossen.</translation>
    </message>
    <message>
        <source>The instrument takes no commands any more.</source>
        <translation>Das Gerät nimmt keine Befehle mehr.</translation>
    </message>
    <message>
        <source>No socket can be made</source>
        <translation>Es lässt sich kein Anschluss anlegen</translation>
    </message>
    <message>
        <source>No instrument can wait at %1</source>
        <translation>Kein Gerät kann an %1 warten</translation>
    </message>
    <message>
        <source>%1 is in use. Give another name for the socket.</source>
        <translation>%1 wird benutzt. Dem Anschluss einen anderen Namen geben.</translation>
    </message>
    <message>
        <source>%1 is a file. Give another name for the socket.</source>
        <translation>%1 ist eine Datei. Dem Anschluss einen anderen Namen geben.</translation>
    </message>
    <message>
        <source>The instrument can wait no longer</source>
        <translation>Das Gerät kann nicht länger warten</translation>
    </message>
    <message>
        <source>The ball is larger than what it touched. Is its diameter right?</source>
        <translation>Die Kugel ist größer als das Angetastete. Stimmt ihr Durchmesser?</translation>
    </message>
    <message>
        <source>The touches do not tell this slot: spread them over both sides and both ends.</source>
        <translation>Die Antastungen sagen dieses Langloch nicht: sie über beide Seiten und beide Enden verteilen.</translation>
    </message>
    <message>
        <source>The ball's radius and the noise are not below zero.</source>
        <translation>Kugelradius und Rauschen liegen nicht unter null.</translation>
    </message>
    <message>
        <source>A %1 wants %2 touches, one more than determine it: %3 to go.</source>
        <translation>%1 verlangt %2 Antastungen, eine mehr, als es bestimmt: noch %3.</translation>
    </message>
    <message>
        <source>A touch has a coordinate that is not a number.</source>
        <translation>Eine Antastung hat eine Koordinate, die keine Zahl ist.</translation>
    </message>
    <message>
        <source>The instrument sent "%1 %2": %3.</source>
        <translation>Das Gerät schickte „%1 %2“: %3.</translation>
    </message>
    <message>
        <source>%1 numbers were expected</source>
        <translation>%1 Zahlen wurden erwartet</translation>
    </message>
    <message>
        <source>"%1" is no number</source>
        <translation>„%1“ ist keine Zahl</translation>
    </message>
    <message>
        <source>The instrument sent a line of %1 characters; it does not speak this protocol.</source>
        <translation>Das Gerät schickte eine Zeile von %1 Zeichen; es spricht dieses Protokoll nicht.</translation>
    </message>
    <message>
        <source>The instrument sent an empty line.</source>
        <translation>Das Gerät schickte eine leere Zeile.</translation>
    </message>
    <message>
        <source>scanners and probes are known</source>
        <translation>bekannt sind Scanner und Taster</translation>
    </message>
    <message>
        <source>a probe gives centres or places</source>
        <translation>ein Taster gibt Mittelpunkte oder Stellen</translation>
    </message>
    <message>
        <source>it is below zero</source>
        <translation>es liegt unter null</translation>
    </message>
    <message>
        <source>The %1 file read back has other curves than the sketch; it was not kept.</source>
        <translation>Die zurückgelesene %1-Datei hat andere Kurven als die Skizze; sie wurde nicht behalten.</translation>
    </message>
    <message>
        <source>%1 cannot be expressed in STEP.</source>
        <translation>%1 lässt sich nicht in STEP ausdrücken.</translation>
    </message>
    <message>
        <source>Cannot write %1: no permission or the disk is full.</source>
        <translation>%1 lässt sich nicht schreiben: keine Berechtigung, oder der Datenträger ist voll.</translation>
    </message>
    <message>
        <source>%1 cannot be expressed in IGES.</source>
        <translation>%1 lässt sich nicht in IGES ausdrücken.</translation>
    </message>
    <message>
        <source>The curves cannot be expressed in this format.</source>
        <translation>Die Kurven lassen sich in diesem Format nicht ausdrücken.</translation>
    </message>
    <message>
        <source>There are no curves to write yet. Resolve the section first.</source>
        <translation>Es gibt noch keine Kurven zu schreiben. Erst den Schnitt auflösen.</translation>
    </message>
    <message>
        <source>%1: curves in space are written as .step or .igs.</source>
        <translation>%1: Raumkurven werden als .step oder .igs geschrieben.</translation>
    </message>
    <message>
        <source>There are no curves to write.</source>
        <translation>Es gibt keine Kurven zu schreiben.</translation>
    </message>
    <message>
        <source>A curve has no length.</source>
        <translation>Eine Kurve hat keine Länge.</translation>
    </message>
    <message>
        <source>There is no sketch to write flat. Curves in space go into .step and .igs.</source>
        <translation>Es gibt keine Skizze, die flach geschrieben werden könnte. Raumkurven kommen in .step und .igs.</translation>
    </message>
    <message>
        <source>%1: curves are written as %2.</source>
        <translation>%1: Kurven werden als %2 geschrieben.</translation>
    </message>
    <message>
        <source>endless line</source>
        <translation>endlose Gerade</translation>
    </message>
    <message>
        <source>filled area</source>
        <translation>gefüllte Fläche</translation>
    </message>
    <message>
        <source>spline through points without poles</source>
        <translation>Spline durch Punkte ohne Pole</translation>
    </message>
    <message>
        <source>spline that cannot be read</source>
        <translation>Spline, der sich nicht lesen lässt</translation>
    </message>
    <message>
        <source>block drawn out of proportion</source>
        <translation>verzerrt gezeichneter Block</translation>
    </message>
    <message>
        <source>Cannot open %1.</source>
        <translation>%1 lässt sich nicht öffnen.</translation>
    </message>
    <message>
        <source>%1 is a binary DXF file. Save it as text.</source>
        <translation>%1 ist eine binäre DXF-Datei. Sie als Text speichern.</translation>
    </message>
    <message>
        <source>%1 is no DXF drawing.</source>
        <translation>%1 ist keine DXF-Zeichnung.</translation>
    </message>
    <message>
        <source>%1 cannot be read as a DXF drawing.</source>
        <translation>%1 lässt sich nicht als DXF-Zeichnung lesen.</translation>
    </message>
    <message>
        <source>curve with numbers beyond reason</source>
        <translation>Kurve mit Zahlen jenseits aller Vernunft</translation>
    </message>
    <message>
        <source>%1 x %2</source>
        <translation>%1 x %2</translation>
    </message>
    <message>
        <source>%1 holds no curves that can be drawn.</source>
        <translation>%1 enthält keine Kurven, die sich zeichnen lassen.</translation>
    </message>
    <message>
        <source>%1: the description of the scans is damaged at its line %2.</source>
        <translation>%1: die Beschreibung der Scans ist in ihrer Zeile %2 beschädigt.</translation>
    </message>
    <message>
        <source>%1: the points hold "%2" of a kind that is not read here (%3).</source>
        <translation>%1: die Punkte enthalten „%2“ einer Art, die hier nicht gelesen wird (%3).</translation>
    </message>
    <message>
        <source>%1: a scan has no coordinates.</source>
        <translation>%1: ein Scan hat keine Koordinaten.</translation>
    </message>
    <message>
        <source>%1 is damaged: a scan announces %2 points.</source>
        <translation>%1 ist beschädigt: ein Scan kündigt %2 Punkte an.</translation>
    </message>
    <message>
        <source>%1 is truncated: a scan announces %2 points and holds %3.</source>
        <translation>%1 ist abgeschnitten: ein Scan kündigt %2 Punkte an und enthält %3.</translation>
    </message>
    <message>
        <source>%1 is truncated within the points of a scan.</source>
        <translation>%1 ist innerhalb der Punkte eines Scans abgeschnitten.</translation>
    </message>
    <message>
        <source>%1 is damaged: no points begin where a scan says they do.</source>
        <translation>%1 ist beschädigt: wo ein Scan es sagt, beginnen keine Punkte.</translation>
    </message>
    <message>
        <source>%1 is damaged within the points of a scan.</source>
        <translation>%1 ist innerhalb der Punkte eines Scans beschädigt.</translation>
    </message>
    <message>
        <source>%1 is damaged: a packet has other columns than its scan.</source>
        <translation>%1 ist beschädigt: ein Paket hat andere Spalten als sein Scan.</translation>
    </message>
    <message>
        <source>%1 is no E57 file: it begins otherwise.</source>
        <translation>%1 ist keine E57-Datei: sie beginnt anders.</translation>
    </message>
    <message>
        <source>%1 is damaged: a conic in it does not go through its own ends.</source>
        <translation>%1 ist beschädigt: Ein Kegelschnitt darin geht nicht durch seine eigenen Enden.</translation>
    </message>
    <message>
        <source>%1 is damaged: a name in its line %2 is none.</source>
        <translation>%1 ist beschädigt: Ein Name in Zeile %2 ist keiner.</translation>
    </message>
    <message>
        <source>%1 is damaged: its lines %2 and %3 both define #%4.</source>
        <translation>%1 ist beschädigt: Die Zeilen %2 und %3 legen beide #%4 fest.</translation>
    </message>
    <message>
        <source>%1 is damaged: the checksums of %2 of its %3 pages do not match, the first at byte %4. Copy or export the file again.</source>
        <translation>%1 ist beschädigt: Die Prüfsummen von %2 der %3 Seiten stimmen nicht, die erste bei Byte %4. Kopieren oder exportieren Sie die Datei noch einmal.</translation>
    </message>
    <message>
        <source>%1 is damaged: a scan does not say %2 as a whole number.</source>
        <translation>%1 ist beschädigt: Ein Scan nennt nicht als ganze Zahl, %2.</translation>
    </message>
    <message>
        <source>where its points begin (fileOffset)</source>
        <translation>wo seine Punkte beginnen (fileOffset)</translation>
    </message>
    <message>
        <source>how many points it has (recordCount)</source>
        <translation>wie viele Punkte er hat (recordCount)</translation>
    </message>
    <message>
        <source>%1: the head of the file is damaged.</source>
        <translation>%1: der Kopf der Datei ist beschädigt.</translation>
    </message>
    <message>
        <source>%1 is truncated: the description of its scans is missing.</source>
        <translation>%1 ist abgeschnitten: die Beschreibung ihrer Scans fehlt.</translation>
    </message>
    <message>
        <source>%1 holds no points.</source>
        <translation>%1 enthält keine Punkte.</translation>
    </message>
    <message>
        <source>%1 holds no curves.</source>
        <translation>%1 enthält keine Kurven.</translation>
    </message>
    <message>
        <source>The curves of %1 do not lie in one plane. A sketch is plane: choose a file with the curves of one plane.</source>
        <translation>Die Kurven von %1 liegen nicht in einer Ebene. Eine Skizze ist eben: eine Datei mit den Kurven einer Ebene wählen.</translation>
    </message>
    <message>
        <source>%1 x curve that cannot be read</source>
        <translation>%1 x Kurve, die sich nicht lesen lässt</translation>
    </message>
    <message>
        <source>%1 cannot be read: it is damaged or of another format.</source>
        <translation>%1 lässt sich nicht lesen: beschädigt oder von anderem Format.</translation>
    </message>
    <message>
        <source>%1 cannot be read: it is damaged.</source>
        <translation>%1 lässt sich nicht lesen: beschädigt.</translation>
    </message>
    <message>
        <source>%1 is damaged in line %2: %3.</source>
        <translation>%1 ist in Zeile %2 beschädigt: %3.</translation>
    </message>
    <message>
        <source>it has %1 columns where IGES has 80</source>
        <translation>sie hat %1 Spalten, wo IGES 80 hat</translation>
    </message>
    <message>
        <source>it belongs to no section of an IGES file</source>
        <translation>sie gehört zu keinem Abschnitt einer IGES-Datei</translation>
    </message>
    <message>
        <source>it holds a byte that is no letter of ASCII</source>
        <translation>sie enthält ein Byte, das kein ASCII-Zeichen ist</translation>
    </message>
    <message>
        <source>its number is none</source>
        <translation>ihre Nummer ist keine</translation>
    </message>
    <message>
        <source>a number in it is beyond all sizes</source>
        <translation>eine Zahl darin ist jenseits aller Größen</translation>
    </message>
    <message>
        <source>a field of the directory is no whole number</source>
        <translation>ein Feld des Verzeichnisses ist keine ganze Zahl</translation>
    </message>
    <message>
        <source>Cannot open</source>
        <translation>Lässt sich nicht öffnen:</translation>
    </message>
    <message>
        <source>%1 is not a file. Choose a scan file.</source>
        <translation>%1 ist keine Datei. Eine Scandatei wählen.</translation>
    </message>
    <message>
        <source>%1 is empty (0 bytes).</source>
        <translation>%1 ist leer (0 Bytes).</translation>
    </message>
    <message>
        <source>Cannot read</source>
        <translation>Lässt sich nicht lesen:</translation>
    </message>
    <message>
        <source>Cannot write</source>
        <translation>Lässt sich nicht schreiben:</translation>
    </message>
    <message>
        <source>Lost Line project</source>
        <translation>Lost-Line-Projekt</translation>
    </message>
    <message>
        <source>%1 is a model (%2), not a scan. Scans are read from %3.</source>
        <translation>%1 ist ein Modell (%2), kein Scan. Scans werden gelesen aus %3.</translation>
    </message>
    <message>
        <source>%1 is a cloud of points (%2). Mesh it first and open the mesh.</source>
        <translation>%1 ist eine Punktwolke (%2). Sie erst vernetzen und das Netz öffnen.</translation>
    </message>
    <message>
        <source>%1 is none of %2. Export the scan as one of them and open that.</source>
        <translation>%1 ist keines von %2. Den Scan als eines davon ausgeben und das öffnen.</translation>
    </message>
    <message>
        <source>%1 holds no points. Points are read from %2.</source>
        <translation>%1 enthält keine Punkte. Punkte werden gelesen aus %2.</translation>
    </message>
    <message>
        <source>%1: points are written as %2.</source>
        <translation>%1: Punkte werden geschrieben als %2.</translation>
    </message>
    <message>
        <source>%1 is no model. Models are read from %2.</source>
        <translation>%1 ist kein Modell. Modelle werden gelesen aus %2.</translation>
    </message>
    <message>
        <source>%1: meshes are written as %2.</source>
        <translation>%1: Netze werden geschrieben als %2.</translation>
    </message>
    <message>
        <source>%1: models are written as %2.</source>
        <translation>%1: Modelle werden geschrieben als %2.</translation>
    </message>
    <message>
        <source>There is no model to write yet. Build at least one step.</source>
        <translation>Es gibt noch kein Modell zu schreiben. Mindestens einen Schritt aufbauen.</translation>
    </message>
    <message>
        <source>%1: curves are read from %2.</source>
        <translation>%1: Kurven werden gelesen aus %2.</translation>
    </message>
    <message>
        <source>%1: sketches and sections are written as %2.</source>
        <translation>%1: Skizzen und Schnitte werden geschrieben als %2.</translation>
    </message>
    <message>
        <source>%1 line %2: %3</source>
        <translation>%1 Zeile %2: %3</translation>
    </message>
    <message>
        <source>this is no PLY file.</source>
        <translation>das ist keine PLY-Datei.</translation>
    </message>
    <message>
        <source>unknown encoding "%1".</source>
        <translation>unbekannte Kodierung „%1“.</translation>
    </message>
    <message>
        <source>an element without a count.</source>
        <translation>ein Element ohne Anzahl.</translation>
    </message>
    <message>
        <source>unknown type "%1".</source>
        <translation>unbekannter Typ „%1“.</translation>
    </message>
    <message>
        <source>the header names no encoding.</source>
        <translation>der Kopf nennt keine Kodierung.</translation>
    </message>
    <message>
        <source>the header has no end: the file is truncated or no PLY.</source>
        <translation>der Kopf hat kein Ende: die Datei ist abgeschnitten oder keine PLY-Datei.</translation>
    </message>
    <message>
        <source>%1 is truncated: it announces %2 of "%3", more than its %4 bytes can hold.</source>
        <translation>%1 ist abgeschnitten: sie kündigt %2 „%3“ an, mehr als ihre %4 Bytes fassen können.</translation>
    </message>
    <message>
        <source>%1: the vertices have no x, y and z.</source>
        <translation>%1: die Ecken haben kein x, y und z.</translation>
    </message>
    <message>
        <source>%1: face %2 names vertex %3, there are %4.</source>
        <translation>%1: Fläche %2 nennt Ecke %3, es gibt %4.</translation>
    </message>
    <message>
        <source>%1 is truncated or garbled at %2 %3 of %4.</source>
        <translation>%1 ist bei %2 %3 von %4 abgeschnitten oder verstümmelt.</translation>
    </message>
    <message>
        <source>%1 is a point cloud of %2 points without triangles. Mesh it first and open the mesh.</source>
        <translation>%1 ist eine Punktwolke von %2 Punkten ohne Dreiecke. Sie erst vernetzen und das Netz öffnen.</translation>
    </message>
    <message>
        <source>%1 holds no triangles.</source>
        <translation>%1 enthält keine Dreiecke.</translation>
    </message>
    <message>
        <source>%1: no triangle has finite coordinates.</source>
        <translation>%1: kein Dreieck hat endliche Koordinaten.</translation>
    </message>
    <message>
        <source>Cannot write %1: no permission or no such folder.</source>
        <translation>%1 lässt sich nicht schreiben: keine Berechtigung oder kein solcher Ordner.</translation>
    </message>
    <message>
        <source>%1 is damaged or no STEP file.</source>
        <translation>%1 ist beschädigt oder keine STEP-Datei.</translation>
    </message>
    <message>
        <source>%1 holds no solid, surface or curve. Export the part as a solid body.</source>
        <translation>%1 enthält keinen Vollkörper, keine Fläche und keine Kurve. Das Teil als Vollkörper ausgeben.</translation>
    </message>
    <message>
        <source>%1 is damaged: its contents contradict each other.</source>
        <translation>%1 ist beschädigt: ihr Inhalt widerspricht sich.</translation>
    </message>
    <message>
        <source>The model cannot be expressed in STEP.</source>
        <translation>Das Modell lässt sich nicht in STEP ausdrücken.</translation>
    </message>
    <message>
        <source>%1 is no STEP file: it does not begin with ISO-10303-21.</source>
        <translation>%1 ist keine STEP-Datei: sie beginnt nicht mit ISO-10303-21.</translation>
    </message>
    <message>
        <source>Cannot write %1: no permission, no such folder, or the disk is full.</source>
        <translation>%1 lässt sich nicht schreiben: keine Berechtigung, kein solcher Ordner, oder der Datenträger ist voll.</translation>
    </message>
    <message>
        <source>read back</source>
        <translation>zurückgelesen</translation>
    </message>
    <message>
        <source>The STEP file could not be read back: %1</source>
        <translation>Die STEP-Datei ließ sich nicht zurücklesen: %1</translation>
    </message>
    <message>
        <source>The STEP file read back differs from the model in its %1; it was not kept.</source>
        <translation>Die zurückgelesene STEP-Datei weicht vom Modell ab (%1); sie wurde nicht behalten.</translation>
    </message>
    <message>
        <source>%1 line %2: "%3" is not a coordinate.</source>
        <translation>%1 Zeile %2: „%3“ ist keine Koordinate.</translation>
    </message>
    <message>
        <source>%1 line %2: a facet has %3 corners instead of 3.</source>
        <translation>%1 Zeile %2: eine Facette hat %3 Ecken statt 3.</translation>
    </message>
    <message>
        <source>%1 ends in the middle (line %2): the file is truncated after %3 triangles.</source>
        <translation>%1 endet in der Mitte (Zeile %2): die Datei ist nach %3 Dreiecken abgeschnitten.</translation>
    </message>
    <message>
        <source>%1 is no STL file: %2 bytes are less than its header.</source>
        <translation>%1 ist keine STL-Datei: %2 Bytes sind weniger als ihr Kopf.</translation>
    </message>
    <message>
        <source>%1 is truncated or no STL file: its header announces %2 triangles, its %3 bytes hold %4. Export or copy it again.</source>
        <translation>%1 ist abgeschnitten oder keine STL-Datei: ihr Kopf kündigt %2 Dreiecke an, ihre %3 Bytes fassen %4. Sie noch einmal ausgeben oder kopieren.</translation>
    </message>
    <message>
        <source>%1 announces no triangles in its header.</source>
        <translation>%1 kündigt in ihrem Kopf keine Dreiecke an.</translation>
    </message>
    <message>
        <source>triangles in millimetres</source>
        <translation>Dreiecke in Millimetern</translation>
    </message>
    <message>
        <source>%1, line %2: %3</source>
        <translation>%1, Zeile %2: %3</translation>
    </message>
    <message>
        <source>a vertex needs three numbers.</source>
        <translation>eine Ecke braucht drei Zahlen.</translation>
    </message>
    <message>
        <source>this face is damaged.</source>
        <translation>diese Fläche ist beschädigt.</translation>
    </message>
    <message>
        <source>"%1" is no corner of a face.</source>
        <translation>„%1“ ist keine Ecke einer Fläche.</translation>
    </message>
    <message>
        <source>the face names a vertex that does not exist.</source>
        <translation>die Fläche nennt eine Ecke, die es nicht gibt.</translation>
    </message>
    <message>
        <source>a face needs three corners.</source>
        <translation>eine Fläche braucht drei Ecken.</translation>
    </message>
    <message>
        <source>%1: a face names a vertex that does not exist.</source>
        <translation>%1: eine Fläche nennt eine Ecke, die es nicht gibt.</translation>
    </message>
    <message>
        <source> is no OBJ file: it holds no vertices.</source>
        <translation> ist keine OBJ-Datei: sie enthält keine Ecken.</translation>
    </message>
    <message>
        <source> holds points but no faces: a point cloud must be meshed first.</source>
        <translation> enthält Punkte, aber keine Flächen: eine Punktwolke muss erst vernetzt werden.</translation>
    </message>
    <message>
        <source>%1 is no OFF file: it begins otherwise.</source>
        <translation>%1 ist keine OFF-Datei: sie beginnt anders.</translation>
    </message>
    <message>
        <source>the numbers of vertices and faces are missing.</source>
        <translation>die Anzahlen der Ecken und Flächen fehlen.</translation>
    </message>
    <message>
        <source>the file is too short for what it announces.</source>
        <translation>die Datei ist zu kurz für das, was sie ankündigt.</translation>
    </message>
    <message>
        <source>the file is truncated.</source>
        <translation>die Datei ist abgeschnitten.</translation>
    </message>
    <message>
        <source>%1 holds no faces: a point cloud must be meshed first.</source>
        <translation>%1 enthält keine Flächen: eine Punktwolke muss erst vernetzt werden.</translation>
    </message>
    <message>
        <source>%1 is no text: points are read from lines of numbers.</source>
        <translation>%1 ist kein Text: Punkte werden aus Zeilen von Zahlen gelesen.</translation>
    </message>
    <message>
        <source>%1 holds no line of at least three numbers.</source>
        <translation>%1 enthält keine Zeile mit mindestens drei Zahlen.</translation>
    </message>
    <message>
        <source>%1, line %2: %3 numbers where %4 were expected (%5).</source>
        <translation>%1, Zeile %2: %3 Zahlen, wo %4 erwartet wurden (%5).</translation>
    </message>
    <message>
        <source>the numbers of columns and rows of a scanner position are missing.</source>
        <translation>die Anzahlen der Spalten und Zeilen einer Scannerstellung fehlen.</translation>
    </message>
    <message>
        <source>there are more scanner positions than can be told apart.</source>
        <translation>es sind mehr Scannerstellungen, als sich unterscheiden lassen.</translation>
    </message>
    <message>
        <source>a scanner position announces more points than the file can hold.</source>
        <translation>eine Scannerstellung kündigt mehr Punkte an, als die Datei fassen kann.</translation>
    </message>
    <message>
        <source>where the scanner stood takes four lines of three numbers.</source>
        <translation>wo der Scanner stand, nimmt vier Zeilen von drei Zahlen.</translation>
    </message>
    <message>
        <source>the transform of a scanner position takes four lines of four numbers.</source>
        <translation>die Umrechnung einer Scannerstellung nimmt vier Zeilen von vier Zahlen.</translation>
    </message>
    <message>
        <source>scanner position %1 ends after %2 of %3 points.</source>
        <translation>Scannerstellung %1 endet nach %2 von %3 Punkten.</translation>
    </message>
    <message>
        <source>%1 has no part %2.</source>
        <translation>%1 hat keinen Teil %2.</translation>
    </message>
    <message>
        <source>%1: part %2 is damaged.</source>
        <translation>%1: Teil %2 ist beschädigt.</translation>
    </message>
    <message>
        <source>%1: part %2 cannot be read.</source>
        <translation>%1: Teil %2 lässt sich nicht lesen.</translation>
    </message>
    <message>
        <source>an object has no id</source>
        <translation>ein Objekt hat keine Kennung</translation>
    </message>
    <message>
        <source>a vertex lacks a coordinate</source>
        <translation>einer Ecke fehlt eine Koordinate</translation>
    </message>
    <message>
        <source>a triangle lacks a corner</source>
        <translation>einem Dreieck fehlt eine Ecke</translation>
    </message>
    <message>
        <source>a triangle names a vertex that does not exist</source>
        <translation>ein Dreieck nennt eine Ecke, die es nicht gibt</translation>
    </message>
    <message>
        <source>a component is damaged</source>
        <translation>ein Bestandteil ist beschädigt</translation>
    </message>
    <message>
        <source>a build item is damaged</source>
        <translation>ein Eintrag der Bauliste ist beschädigt</translation>
    </message>
    <message>
        <source>%1 is no 3MF file: it is not a zip archive, or it is truncated.</source>
        <translation>%1 ist keine 3MF-Datei: sie ist kein Zip-Archiv, oder sie ist abgeschnitten.</translation>
    </message>
    <message>
        <source>%1 is no 3MF file: it holds no model.</source>
        <translation>%1 ist keine 3MF-Datei: sie enthält kein Modell.</translation>
    </message>
    <message>
        <source> (line %1)</source>
        <translation> (Zeile %1)</translation>
    </message>
    <message>
        <source>%1: its model cannot be understood: %2.</source>
        <translation>%1: ihr Modell ist nicht zu verstehen: %2.</translation>
    </message>
    <message>
        <source>%1: it builds object %2, which is missing or holds itself.</source>
        <translation>%1: sie baut Objekt %2, das fehlt oder sich selbst enthält.</translation>
    </message>
    <message>
        <source>%1: unknown unit "%2".</source>
        <translation>%1: unbekannte Einheit „%2“.</translation>
    </message>
    <message>
        <source>Cannot write %1: no permission, or the disk is full.</source>
        <translation>%1 lässt sich nicht schreiben: keine Berechtigung, oder der Datenträger ist voll.</translation>
    </message>
    <message>
        <source>Scan %1 can be shifted or turned along what it shares with the others: a cylinder, a plane or a sphere. Say places that belong together.</source>
        <translation>Scan %1 lässt sich entlang dem, was er mit den anderen teilt, schieben oder drehen: ein Zylinder, eine Ebene oder eine Kugel. Stellen nennen, die zusammengehören.</translation>
    </message>
    <message>
        <source>The pairs of scan %1: %2</source>
        <translation>Die Paare von Scan %1: %2</translation>
    </message>
    <message>
        <source>Scan %1 lies on the others in more than one way that agrees alike. Say places that belong together.</source>
        <translation>Scan %1 liegt auf mehr als eine Weise gleich gut auf den anderen. Stellen nennen, die zusammengehören.</translation>
    </message>
    <message>
        <source>Scan %1 is held to ± %2 mm only: what it shares with the others tells little more. Scan from between, or say places that belong together.</source>
        <translation>Scan %1 ist nur auf ± %2 mm gehalten: was er mit den anderen teilt, sagt kaum mehr. Von dazwischen scannen oder Stellen nennen, die zusammengehören.</translation>
    </message>
    <message>
        <source>Scan %1 lies on no other: at best %2 mm2 of it agree. Check its unit, or say three places that it shares with another.</source>
        <translation>Scan %1 liegt auf keinem anderen: bestenfalls stimmen %2 mm2 davon überein. Seine Einheit prüfen oder drei Stellen nennen, die er mit einem anderen teilt.</translation>
    </message>
    <message>
        <source>Scan %1 contradicts the others over %2 mm2 where %3 mm2 agree: it may lie wrong, or the part has changed between the scans.</source>
        <translation>Scan %1 widerspricht den anderen auf %2 mm2, wo %3 mm2 übereinstimmen: er kann falsch liegen, oder das Teil hat sich zwischen den Scans verändert.</translation>
    </message>
    <message>
        <source>Joining takes two scans or more.</source>
        <translation>Zusammengefügt werden zwei Scans oder mehr.</translation>
    </message>
    <message>
        <source>A pair names scans %1 and %2; there are %3.</source>
        <translation>Ein Paar nennt die Scans %1 und %2; es gibt %3.</translation>
    </message>
    <message>
        <source>There is no link between scans %1 and %2.</source>
        <translation>Zwischen den Scans %1 und %2 besteht keine Verbindung.</translation>
    </message>
    <message>
        <source>Scan %1: %2</source>
        <translation>Scan %1: %2</translation>
    </message>
    <message>
        <source>A scan of %1 triangles shows too little surface to be joined to others.</source>
        <translation>Ein Scan von %1 Dreiecken zeigt zu wenig Oberfläche, um mit anderen zusammengefügt zu werden.</translation>
    </message>
    <message>
        <source>What is picked lies on several bodies. Make a step for each of them.</source>
        <translation>Das Gewählte liegt auf mehreren Körpern. Für jeden einen Schritt machen.</translation>
    </message>
    <message>
        <source>Pick at least one body to %1.</source>
        <translation>Mindestens einen Körper wählen: %1.</translation>
    </message>
    <message>
        <source>Body %1 is gone. Pick another body.</source>
        <translation>Körper %1 gibt es nicht mehr. Einen anderen Körper wählen.</translation>
    </message>
    <message>
        <source>A %1 has no material of its own that could be repeated. Pick another step.</source>
        <translation>%1 hat keinen eigenen Werkstoff, der sich wiederholen ließe. Einen anderen Schritt wählen.</translation>
    </message>
    <message>
        <source>The step it repeats is gone or comes later. Pick a step before this one.</source>
        <translation>Den wiederholten Schritt gibt es nicht mehr, oder er kommt später. Einen Schritt vor diesem wählen.</translation>
    </message>
    <message>
        <source>There is no edge to %1 yet.</source>
        <translation>Es gibt noch keine Kante: %1.</translation>
    </message>
    <message>
        <source>Pick at least one edge to %1.</source>
        <translation>Mindestens eine Kante wählen: %1.</translation>
    </message>
    <message>
        <source>The edge between %1 and %2 is gone. Pick another edge.</source>
        <translation>Die Kante zwischen %1 und %2 gibt es nicht mehr. Eine andere Kante wählen.</translation>
    </message>
    <message>
        <source>%1 is too large for the edge%2</source>
        <translation>%1 ist zu groß für die Kante%2</translation>
    </message>
    <message>
        <source>empty step</source>
        <translation>leerer Schritt</translation>
    </message>
    <message>
        <source>This step is of no kind. Remove it.</source>
        <translation>Dieser Schritt ist von keiner Art. Ihn entfernen.</translation>
    </message>
    <message>
        <source>the model cannot be copied</source>
        <translation>das Modell lässt sich nicht kopieren</translation>
    </message>
    <message>
        <source>%1 could not be computed%2.</source>
        <translation>%1 ließ sich nicht berechnen%2.</translation>
    </message>
    <message>
        <source>The moved faces do not meet again.</source>
        <translation>Die bewegten Flächen treffen sich nicht wieder.</translation>
    </message>
    <message>
        <source>A round face would be moved past its own axis.</source>
        <translation>Eine runde Fläche würde über ihre eigene Achse hinaus bewegt.</translation>
    </message>
    <message>
        <source>There is no face to %1 yet.</source>
        <translation>Es gibt noch keine Fläche: %1.</translation>
    </message>
    <message>
        <source>Pick at least one face to %1.</source>
        <translation>Mindestens eine Fläche wählen: %1.</translation>
    </message>
    <message>
        <source>Face %1 is gone. Pick another face.</source>
        <translation>Fläche %1 gibt es nicht mehr. Eine andere Fläche wählen.</translation>
    </message>
    <message>
        <source>%1 mm</source>
        <translation>%1 mm</translation>
    </message>
    <message>
        <source>%1 of %2 is more than these faces allow; %3</source>
        <translation>%1 von %2 ist mehr, als diese Flächen zulassen; %3</translation>
    </message>
    <message>
        <source>scan behind the face</source>
        <translation>Scan hinter der Fläche</translation>
    </message>
    <message>
        <source>The area at %1, %2 is no longer closed. Pick the areas again.</source>
        <translation>Die Fläche bei %1, %2 ist nicht mehr geschlossen. Die Flächen neu wählen.</translation>
    </message>
    <message>
        <source>The profile's curve %1 is no longer in the sketch. Pick the profile again.</source>
        <translation>Die Kurve %1 des Profils ist nicht mehr in der Skizze. Das Profil neu wählen.</translation>
    </message>
    <message>
        <source>The profile does not close at %1. Join its loose end.</source>
        <translation>Das Profil schließt bei %1 nicht. Sein loses Ende verbinden.</translation>
    </message>
    <message>
        <source>: %1 has a loose end</source>
        <translation>: %1 hat ein loses Ende</translation>
    </message>
    <message>
        <source>The sketch has no closed profile%1.</source>
        <translation>Die Skizze hat kein geschlossenes Profil%1.</translation>
    </message>
    <message>
        <source>split along</source>
        <translation>teilen an</translation>
    </message>
    <message>
        <source>A body is split along surface bodies; this is a %1 body. Pick another.</source>
        <translation>Ein Körper wird an Flächenkörpern geteilt; dies ist von der Art %1. Einen anderen wählen.</translation>
    </message>
    <message>
        <source>The body cannot be split there.</source>
        <translation>Der Körper lässt sich dort nicht teilen.</translation>
    </message>
    <message>
        <source>%1 has no length or does not run through its ends. Fit the sketch again.</source>
        <translation>%1 hat keine Länge oder läuft nicht durch seine Enden. Die Skizze neu ausgleichen.</translation>
    </message>
    <message>
        <source>The profile does not close at %1.</source>
        <translation>Das Profil schließt bei %1 nicht.</translation>
    </message>
    <message>
        <source>%1 has no length.</source>
        <translation>%1 hat keine Länge.</translation>
    </message>
    <message>
        <source>The profile bounds no area.</source>
        <translation>Das Profil begrenzt keine Fläche.</translation>
    </message>
    <message>
        <source>The %1 %2</source>
        <translation>%1 %2</translation>
    </message>
    <message>
        <source>The result is not sound geometry. Change the values of this step.</source>
        <translation>Das Ergebnis ist keine saubere Geometrie. Die Werte dieses Schritts ändern.</translation>
    </message>
    <message>
        <source>The face crosses itself. Use fewer spans or a smaller area.</source>
        <translation>Die Fläche durchdringt sich selbst. Weniger Spannen oder einen kleineren Bereich nehmen.</translation>
    </message>
    <message>
        <source>The patches do not close. Use more of them, or fewer spans.</source>
        <translation>Die Flächenstücke schließen nicht. Mehr davon nehmen oder weniger Spannen.</translation>
    </message>
    <message>
        <source>The patches cross each other somewhere. Use more of them, or fewer spans.</source>
        <translation>Die Flächenstücke durchdringen sich irgendwo. Mehr davon nehmen oder weniger Spannen.</translation>
    </message>
    <message>
        <source>The free body</source>
        <translation>Der Freiformkörper</translation>
    </message>
    <message>
        <source>The face</source>
        <translation>Die Fläche</translation>
    </message>
    <message>
        <source>cut by bodies</source>
        <translation>an Körpern beschnitten</translation>
    </message>
    <message>
        <source>common of bodies</source>
        <translation>Gemeinsames von Körpern</translation>
    </message>
    <message>
        <source>One body is changed by the others. Pick one to change and the others beside it.</source>
        <translation>Ein Körper wird durch die anderen verändert. Einen wählen, der sich ändert, und die anderen dazu.</translation>
    </message>
    <message>
        <source>combine it with</source>
        <translation>verknüpfen mit</translation>
    </message>
    <message>
        <source>A body cannot be combined with itself.</source>
        <translation>Ein Körper lässt sich nicht mit sich selbst verknüpfen.</translation>
    </message>
    <message>
        <source>Solids are combined; one of these is a %1 body. Sew surfaces into a solid first, or split by them.</source>
        <translation>Vollkörper werden verknüpft; einer von diesen ist von der Art %1. Erst Flächen zum Vollkörper vernähen oder an ihnen teilen.</translation>
    </message>
    <message>
        <source>A chamfer needs a leg greater than zero.</source>
        <translation>Eine Fase braucht einen Schenkel größer als null.</translation>
    </message>
    <message>
        <source>A chamfer's angle lies between 1° and 89°.</source>
        <translation>Der Winkel einer Fase liegt zwischen 1° und 89°.</translation>
    </message>
    <message>
        <source>A leg of %1</source>
        <translation>Ein Schenkel von %1</translation>
    </message>
    <message>
        <source>Walls are drafted from a plane. Pick a datum plane or a flat face.</source>
        <translation>Wände werden von einer Ebene aus geneigt. Eine Bezugsebene oder eine ebene Fläche wählen.</translation>
    </message>
    <message>
        <source>A draft is an angle other than 0° and of at most 57°.</source>
        <translation>Eine Formschräge ist ein Winkel ungleich 0° und höchstens 57°.</translation>
    </message>
    <message>
        <source>walls of the scan</source>
        <translation>Wände des Scans</translation>
    </message>
    <message>
        <source>A draft of more than 57 degrees is not a draft.</source>
        <translation>Eine Formschräge von mehr als 57 Grad ist keine.</translation>
    </message>
    <message>
        <source>The draft does not work on %1. Try a smaller angle or none.</source>
        <translation>Die Formschräge gelingt nicht an %1. Einen kleineren Winkel versuchen oder keinen.</translation>
    </message>
    <message>
        <source>The draft of %1° closes the profile before its end. Try a smaller angle.</source>
        <translation>Die Formschräge von %1° schließt das Profil vor seinem Ende. Einen kleineren Winkel versuchen.</translation>
    </message>
    <message>
        <source>A surface body is extruded between levels and without draft. Give levels, or trim and draft the body afterwards.</source>
        <translation>Ein Flächenkörper wird zwischen Höhen und ohne Formschräge extrudiert. Höhen angeben oder den Körper danach beschneiden und neigen.</translation>
    </message>
    <message>
        <source>The profile cannot be extruded.</source>
        <translation>Das Profil lässt sich nicht extrudieren.</translation>
    </message>
    <message>
        <source>Choose the curves and edges that bound the surface.</source>
        <translation>Die Kurven und Kanten wählen, die die Fläche begrenzen.</translation>
    </message>
    <message>
        <source>fill to</source>
        <translation>füllen bis</translation>
    </message>
    <message>
        <source>The curves and edges do not close: each must begin where another one ends.</source>
        <translation>Die Kurven und Kanten schließen nicht: jede muss beginnen, wo eine andere endet.</translation>
    </message>
    <message>
        <source>No smooth surface lies inside these curves.</source>
        <translation>Innerhalb dieser Kurven liegt keine glatte Fläche.</translation>
    </message>
    <message>
        <source>A fillet needs a radius greater than zero.</source>
        <translation>Eine Verrundung braucht einen Radius größer als null.</translation>
    </message>
    <message>
        <source>A fillet that grows needs a radius greater than zero at its other end too.</source>
        <translation>Eine wachsende Verrundung braucht auch an ihrem anderen Ende einen Radius größer als null.</translation>
    </message>
    <message>
        <source>Choose the sketch whose outlines are filled.</source>
        <translation>Die Skizze wählen, deren Umrisse gefüllt werden.</translation>
    </message>
    <message>
        <source>Give a level that is a number.</source>
        <translation>Eine Höhe angeben, die eine Zahl ist.</translation>
    </message>
    <message>
        <source>The free body has no patches yet: fit them first.</source>
        <translation>Der Freiformkörper hat noch keine Flächenstücke: sie erst einpassen.</translation>
    </message>
    <message>
        <source>The head of %1 mm is no wider than the hole of %2 mm.</source>
        <translation>Der Kopf von %1 mm ist nicht weiter als die Bohrung von %2 mm.</translation>
    </message>
    <message>
        <source>A countersink has an angle between 6 and 170 degrees.</source>
        <translation>Eine Senkung hat einen Winkel zwischen 6 und 170 Grad.</translation>
    </message>
    <message>
        <source>The head is %1 mm deep: from its entry it does not lie within the hole.</source>
        <translation>Der Kopf ist %1 mm tief: von seinem Eintritt aus liegt er nicht in der Bohrung.</translation>
    </message>
    <message>
        <source>tapped hole %1 - %2</source>
        <translation>Gewindebohrung %1 - %2</translation>
    </message>
    <message>
        <source>counterbored hole</source>
        <translation>Bohrung mit Flachsenkung</translation>
    </message>
    <message>
        <source>countersunk hole</source>
        <translation>Bohrung mit Kegelsenkung</translation>
    </message>
    <message>
        <source>A hole needs a diameter greater than zero.</source>
        <translation>Eine Bohrung braucht einen Durchmesser größer als null.</translation>
    </message>
    <message>
        <source>Pick at least one circle for the hole.</source>
        <translation>Mindestens einen Kreis für die Bohrung wählen.</translation>
    </message>
    <message>
        <source>Circle %1 is no longer in the sketch. Pick the circles again.</source>
        <translation>Kreis %1 ist nicht mehr in der Skizze. Die Kreise neu wählen.</translation>
    </message>
    <message>
        <source>The hole cannot be made with these numbers.</source>
        <translation>Die Bohrung lässt sich mit diesen Zahlen nicht herstellen.</translation>
    </message>
    <message>
        <source>Choose the file of the model to import.</source>
        <translation>Die Datei des einzulesenden Modells wählen.</translation>
    </message>
    <message>
        <source>A curve of the loft has no length.</source>
        <translation>Eine Kurve des Lofts hat keine Länge.</translation>
    </message>
    <message>
        <source>A section has no curve.</source>
        <translation>Ein Querschnitt hat keine Kurve.</translation>
    </message>
    <message>
        <source>A guide passes %1 mm from section %2. It must run through all sections.</source>
        <translation>Eine Führung geht %1 mm an Querschnitt %2 vorbei. Sie muss durch alle Querschnitte gehen.</translation>
    </message>
    <message>
        <source>A section between those given has no length.</source>
        <translation>Ein Querschnitt zwischen den gegebenen hat keine Länge.</translation>
    </message>
    <message>
        <source>scan beside the edge</source>
        <translation>Scan neben der Kante</translation>
    </message>
    <message>
        <source>scan beside %1 edges</source>
        <translation>Scan neben %1 Kanten</translation>
    </message>
    <message>
        <source>The loft has no plane end: its sections are not flat.</source>
        <translation>Der Loft hat kein ebenes Ende: Seine Querschnitte sind nicht eben.</translation>
    </message>
    <message>
        <source>The loft&apos;s end beyond a section is not one chain.</source>
        <translation>Das Ende des Lofts jenseits eines Querschnitts ist nicht eine Kette.</translation>
    </message>
    <message>
        <source>Sections %1 and %2 of the loft lie on each other. Leave one out.</source>
        <translation>Die Querschnitte %1 und %2 des Lofts liegen aufeinander. Lassen Sie einen weg.</translation>
    </message>
    <message>
        <source>A curve of the loft folds upon itself.</source>
        <translation>Eine Kurve des Lofts faltet sich auf sich selbst.</translation>
    </message>
    <message>
        <source>A curve of the loft&apos;s sections has a corner within. Divide it there.</source>
        <translation>Eine Kurve der Querschnitte des Lofts hat innen eine Ecke. Teilen Sie sie dort.</translation>
    </message>
    <message>
        <source>Sections along guides, or of a loft that goes on beyond its ends, need as many curves each: the first has %1, section %2 has %3.</source>
        <translation>Schnitte entlang Leitkurven, oder eines Lofts, der über seine Enden hinausgeht, brauchen gleich viele Kurven: der erste hat %1, Schnitt %2 hat %3.</translation>
    </message>
    <message>
        <source>lofted cut</source>
        <translation>Übergangsausschnitt</translation>
    </message>
    <message>
        <source>lofted common</source>
        <translation>Gemeinsames des Übergangs</translation>
    </message>
    <message>
        <source>Section %1 of the loft has %2 outlines. Say which one is meant.</source>
        <translation>Schnitt %1 des Lofts hat %2 Umrisse. Sagen Sie, welcher gemeint ist.</translation>
    </message>
    <message>
        <source>Some sections of the loft close and some do not. Close all or none.</source>
        <translation>Manche Querschnitte des Übergangs schließen, manche nicht. Alle schließen oder keinen.</translation>
    </message>
    <message>
        <source>No surface goes through these sections in this order.</source>
        <translation>Durch diese Querschnitte geht in dieser Reihenfolge keine Fläche.</translation>
    </message>
    <message>
        <source>A loft that is straight from section to section follows no guide and leaves no section square. Leave one of the two out.</source>
        <translation>Ein Übergang, der von Querschnitt zu Querschnitt gerade ist, folgt keiner Führung und verlässt keinen rechtwinklig. Eines von beiden weglassen.</translation>
    </message>
    <message>
        <source>The sections cannot go over along this curve. It must run through all of them in their order, and bend less than they are wide.</source>
        <translation>Die Querschnitte können nicht entlang dieser Kurve ineinander übergehen. Sie muss der Reihe nach durch alle gehen und sich weniger biegen, als sie breit sind.</translation>
    </message>
    <message>
        <source>A loft needs two sections or more: choose their sketches in order.</source>
        <translation>Ein Übergang braucht zwei Querschnitte oder mehr: ihre Skizzen der Reihe nach wählen.</translation>
    </message>
    <message>
        <source>A loft runs along one curve, or none.</source>
        <translation>Ein Loft läuft entlang einer Kurve oder keiner.</translation>
    </message>
    <message>
        <source>A loft runs along a spine, or touches guides, leaves its ends square or goes on beyond them: choose one of the two.</source>
        <translation>Ein Loft läuft entlang einer Leitlinie, oder er berührt Leitkurven, verlässt seine Enden senkrecht oder geht über sie hinaus: wählen Sie eines von beiden.</translation>
    </message>
    <message>
        <source>There is nothing to mirror yet.</source>
        <translation>Es gibt noch nichts zu spiegeln.</translation>
    </message>
    <message>
        <source>A mirror is a plane. Pick a datum plane or a flat face.</source>
        <translation>Ein Spiegel ist eine Ebene. Eine Bezugsebene oder eine ebene Fläche wählen.</translation>
    </message>
    <message>
        <source>Give shifts and an angle that are numbers.</source>
        <translation>Verschiebungen und einen Winkel angeben, die Zahlen sind.</translation>
    </message>
    <message>
        <source>Give a shift or an angle other than zero.</source>
        <translation>Eine Verschiebung oder einen Winkel ungleich null angeben.</translation>
    </message>
    <message>
        <source>Say how far the faces move: x, y and z are all zero.</source>
        <translation>Sagen, wie weit die Flächen sich bewegen: x, y und z sind alle null.</translation>
    </message>
    <message>
        <source>These faces are no hole, pocket or boss by themselves. Pick all faces of it, or flat faces only.</source>
        <translation>Diese Flächen sind für sich keine Bohrung, Tasche oder Nabe. Alle Flächen davon wählen oder nur ebene.</translation>
    </message>
    <message>
        <source>The faces do not meet again so far away. Try a smaller move.</source>
        <translation>Die Flächen treffen sich so weit weg nicht wieder. Eine kleinere Bewegung versuchen.</translation>
    </message>
    <message>
        <source>A face is offset by a distance other than zero.</source>
        <translation>Eine Fläche wird um einen Abstand ungleich null versetzt.</translation>
    </message>
    <message>
        <source>One face at a time goes on past its borders. Pick a single face.</source>
        <translation>Eine Fläche zur Zeit geht über ihre Ränder hinaus weiter. Eine einzelne wählen.</translation>
    </message>
    <message>
        <source>This face cannot go on past its borders.</source>
        <translation>Diese Fläche kann nicht über ihre Ränder hinaus weitergehen.</translation>
    </message>
    <message>
        <source>Give a distance that is a number, and beyond not below zero.</source>
        <translation>Einen Abstand angeben, der eine Zahl ist, und einen Überstand nicht unter null.</translation>
    </message>
    <message>
        <source>These faces have no surface %1 mm from them that holds together. Try a smaller distance or fewer faces.</source>
        <translation>Diese Flächen haben %1 mm von sich keine Fläche, die zusammenhält. Einen kleineren Abstand oder weniger Flächen versuchen.</translation>
    </message>
    <message>
        <source>Click an area of the scan: the patch has no face yet.</source>
        <translation>Einen Bereich des Scans anklicken: die Freiformfläche hat noch keine Fläche.</translation>
    </message>
    <message>
        <source>%1 members %2° apart reach more than once round.</source>
        <translation>%1 Glieder im Abstand von %2° reichen mehr als einmal herum.</translation>
    </message>
    <message>
        <source>Choose the sketch at whose points it is repeated.</source>
        <translation>Die Skizze wählen, an deren Punkten wiederholt wird.</translation>
    </message>
    <message>
        <source>The sketch has %1 points and circles. A pattern needs two or more.</source>
        <translation>Die Skizze hat %1 Punkte und Kreise. Ein Muster braucht zwei oder mehr.</translation>
    </message>
    <message>
        <source>Choose the curve along which it is repeated.</source>
        <translation>Die Kurve wählen, an der entlang wiederholt wird.</translation>
    </message>
    <message>
        <source>%1 members %2 mm apart are longer than the %3 mm that the curve goes on from the first.</source>
        <translation>%1 Glieder im Abstand von %2 mm sind länger als die %3 mm, die die Kurve vom ersten an weitergeht.</translation>
    </message>
    <message>
        <source>A pattern has from 2 to 2000 members.</source>
        <translation>Ein Muster hat 2 bis 2000 Glieder.</translation>
    </message>
    <message>
        <source>A pattern needs a spacing other than zero.</source>
        <translation>Ein Muster braucht eine Teilung ungleich null.</translation>
    </message>
    <message>
        <source>Click the pipe on the scan: it has no centre line yet.</source>
        <translation>Das Rohr auf dem Scan anklicken: es hat noch keine Mittellinie.</translation>
    </message>
    <message>
        <source>Corner %1 of the path has no bend. Give the pipe a bend radius.</source>
        <translation>Ecke %1 des Verlaufs hat keinen Bogen. Dem Rohr einen Biegeradius geben.</translation>
    </message>
    <message>
        <source>A bend of %1 mm does not fit at corner %2 of the path: up to %3 mm works.</source>
        <translation>Ein Bogen von %1 mm passt nicht an Ecke %2 des Verlaufs: bis %3 mm geht.</translation>
    </message>
    <message>
        <source>The path of the pipe does not hold together.</source>
        <translation>Der Verlauf des Rohrs hängt nicht zusammen.</translation>
    </message>
    <message>
        <source>pipe cut</source>
        <translation>Rohrausschnitt</translation>
    </message>
    <message>
        <source>pipe common</source>
        <translation>Gemeinsames des Rohrs</translation>
    </message>
    <message>
        <source>A pipe needs a radius above zero and a wall of zero or more.</source>
        <translation>Ein Rohr braucht einen Radius über null und eine Wand von null oder mehr.</translation>
    </message>
    <message>
        <source>A wall of %1 mm leaves nothing inside a radius of %2 mm. Use 0 for a solid bar.</source>
        <translation>Eine Wand von %1 mm lässt in einem Radius von %2 mm nichts übrig. 0 für eine volle Stange nehmen.</translation>
    </message>
    <message>
        <source>A bend of %1 mm is tighter than the pipe's radius of %2 mm.</source>
        <translation>Ein Bogen von %1 mm ist enger als der Rohrradius von %2 mm.</translation>
    </message>
    <message>
        <source>The pipe cannot be made along this path.</source>
        <translation>Entlang diesem Verlauf lässt sich das Rohr nicht herstellen.</translation>
    </message>
    <message>
        <source>%1 surface</source>
        <translation>%1-Fläche</translation>
    </message>
    <message>
        <source>%1 cut</source>
        <translation>%1-Ausschnitt</translation>
    </message>
    <message>
        <source>A block needs two different levels along each of x, y and z.</source>
        <translation>Ein Block braucht längs x, y und z je zwei verschiedene Höhen.</translation>
    </message>
    <message>
        <source>Give a radius greater than zero.</source>
        <translation>Einen Radius größer als null angeben.</translation>
    </message>
    <message>
        <source>From and to are the same level: the body has no height.</source>
        <translation>Von und bis sind dieselbe Höhe: der Körper hat keine Höhe.</translation>
    </message>
    <message>
        <source>A cone needs a half angle other than zero, and it must not shrink to nothing before its end.</source>
        <translation>Ein Kegel braucht einen halben Winkel ungleich null und darf vor seinem Ende nicht auf nichts schrumpfen.</translation>
    </message>
    <message>
        <source>The tube of a ring is thinner than the ring's own radius.</source>
        <translation>Das Rohr eines Rings ist dünner als der Radius des Rings selbst.</translation>
    </message>
    <message>
        <source>This would leave no body at all. Remove the steps that made them instead.</source>
        <translation>Damit bliebe gar kein Körper. Stattdessen die Schritte entfernen, die sie gemacht haben.</translation>
    </message>
    <message>
        <source>Faces of a solid are replaced. Pick a face of one.</source>
        <translation>Ersetzt werden Flächen eines Vollkörpers. Eine davon wählen.</translation>
    </message>
    <message>
        <source>The walls around this face cannot grow to the surface. Use Split with the surface instead, or extend the solid first.</source>
        <translation>Die Wände um diese Fläche können nicht bis zur neuen wachsen. Stattdessen an ihr teilen oder den Vollkörper erst verlängern.</translation>
    </message>
    <message>
        <source>The surface does not cut the walls around this face all the way: it must reach past them. Extend it, or pick another.</source>
        <translation>Die neue Fläche schneidet die Wände um diese Fläche nicht ringsum: sie muss über sie hinausreichen. Sie verlängern oder eine andere wählen.</translation>
    </message>
    <message>
        <source>Nothing of the solid is left behind the surface.</source>
        <translation>Hinter der Fläche bleibt vom Vollkörper nichts.</translation>
    </message>
    <message>
        <source>turned cut</source>
        <translation>gedrehter Ausschnitt</translation>
    </message>
    <message>
        <source>turned common</source>
        <translation>Gemeinsames der Drehung</translation>
    </message>
    <message>
        <source>The axis is no longer a line of the sketch. Pick the axis again.</source>
        <translation>Die Achse ist keine Linie der Skizze mehr. Die Achse neu wählen.</translation>
    </message>
    <message>
        <source>The line picked as axis has no length.</source>
        <translation>Die als Achse gewählte Linie hat keine Länge.</translation>
    </message>
    <message>
        <source>A turn must be more than 0° and at most 360°.</source>
        <translation>Eine Drehung muss größer als 0° und höchstens 360° sein.</translation>
    </message>
    <message>
        <source>The profile lies on both sides of its axis. Trim it to one side.</source>
        <translation>Das Profil liegt auf beiden Seiten seiner Achse. Es auf einer Seite stutzen.</translation>
    </message>
    <message>
        <source>The profile cannot be turned.</source>
        <translation>Das Profil lässt sich nicht drehen.</translation>
    </message>
    <message>
        <source>Choose the sketch of the rib's outline.</source>
        <translation>Die Skizze des Rippenumrisses wählen.</translation>
    </message>
    <message>
        <source>Give a thickness greater than zero.</source>
        <translation>Eine Dicke größer als null angeben.</translation>
    </message>
    <message>
        <source>A rib stands on a part: there is no solid body yet.</source>
        <translation>Eine Rippe steht auf einem Teil: es gibt noch keinen Vollkörper.</translation>
    </message>
    <message>
        <source>A rib is drawn as one outline that does not close: its upper edge.</source>
        <translation>Eine Rippe wird als ein Umriss gezeichnet, der nicht schließt: ihre Oberkante.</translation>
    </message>
    <message>
        <source>The outline of the rib ends where it begins.</source>
        <translation>Der Umriss der Rippe endet, wo er beginnt.</translation>
    </message>
    <message>
        <source>The part does not close the rib off on the other side of its outline.</source>
        <translation>Das Teil schließt die Rippe auf der anderen Seite ihres Umrisses nicht ab.</translation>
    </message>
    <message>
        <source>The part does not close the rib off on either side of its outline. Draw the outline so that its ends run into the part.</source>
        <translation>Das Teil schließt die Rippe auf keiner Seite ihres Umrisses ab. Den Umriss so zeichnen, dass seine Enden in das Teil laufen.</translation>
    </message>
    <message>
        <source>Choose the two curves that the surface spans.</source>
        <translation>Die beiden Kurven wählen, zwischen denen die Fläche liegt.</translation>
    </message>
    <message>
        <source>One of the curves is closed and one is open. Choose two that are alike.</source>
        <translation>Eine der Kurven ist geschlossen und eine offen. Zwei gleichartige wählen.</translation>
    </message>
    <message>
        <source>No surface spans these two curves.</source>
        <translation>Zwischen diesen beiden Kurven liegt keine Fläche.</translation>
    </message>
    <message>
        <source>Give two lengths greater than zero.</source>
        <translation>Zwei Längen größer als null angeben.</translation>
    </message>
    <message>
        <source>Bodies are made up to 1000 times as large or as small, not %1 times.</source>
        <translation>Körper werden bis zu 1000-mal so groß oder so klein gemacht, nicht %1-mal.</translation>
    </message>
    <message>
        <source>Give the widest gap to close, greater than zero.</source>
        <translation>Die weiteste zu schließende Lücke angeben, größer als null.</translation>
    </message>
    <message>
        <source>Surface bodies are sewn; this is a %1 body. Pick surfaces only.</source>
        <translation>Vernäht werden Flächenkörper; dies ist von der Art %1. Nur Flächen wählen.</translation>
    </message>
    <message>
        <source>The surfaces do not meet within the gap. Pick others or widen the gap.</source>
        <translation>Die Flächen treffen sich nicht innerhalb der Lücke. Andere wählen oder die Lücke weiten.</translation>
    </message>
    <message>
        <source>The sewn surfaces enclose no space.</source>
        <translation>Die vernähten Flächen umschließen keinen Raum.</translation>
    </message>
    <message>
        <source>A shell needs a thickness greater than zero.</source>
        <translation>Eine Schale braucht eine Dicke größer als null.</translation>
    </message>
    <message>
        <source>leave open</source>
        <translation>offen lassen</translation>
    </message>
    <message>
        <source>Every face is picked as open, so no wall would be left. Take one back.</source>
        <translation>Jede Fläche ist als offen gewählt, so bliebe keine Wand. Eine zurücknehmen.</translation>
    </message>
    <message>
        <source>wall of the scan</source>
        <translation>Wand des Scans</translation>
    </message>
    <message>
        <source>Solids and surfaces are split; this is a curve body. Pick another.</source>
        <translation>Geteilt werden Vollkörper und Flächen; dies ist ein Kurvenkörper. Einen anderen wählen.</translation>
    </message>
    <message>
        <source>A surface body cannot be split along itself.</source>
        <translation>Ein Flächenkörper lässt sich nicht an sich selbst teilen.</translation>
    </message>
    <message>
        <source>No piece lies on the %1 side. Keep the other side.</source>
        <translation>Auf der Seite „%1“ liegt kein Stück. Die andere Seite behalten.</translation>
    </message>
    <message>
        <source>Nothing is parted: the surface does not run through the body.</source>
        <translation>Nichts wird geteilt: die Fläche läuft nicht durch den Körper.</translation>
    </message>
    <message>
        <source>The curves of the path are %1 chains. A path is one chain of curves, end to end.</source>
        <translation>Die Kurven des Pfads sind %1 Ketten. Ein Pfad ist eine Kette von Kurven, Ende an Ende.</translation>
    </message>
    <message>
        <source>swept cut</source>
        <translation>geführter Ausschnitt</translation>
    </message>
    <message>
        <source>swept common</source>
        <translation>Gemeinsames der Führung</translation>
    </message>
    <message>
        <source>Choose the sketch of the profile, and a sketch or a curve as its path.</source>
        <translation>Die Skizze des Profils wählen und eine Skizze oder eine Kurve als Pfad.</translation>
    </message>
    <message>
        <source>The path is another sketch than the profile.</source>
        <translation>Der Pfad ist eine andere Skizze als das Profil.</translation>
    </message>
    <message>
        <source>The profile cannot be moved along this path.</source>
        <translation>Das Profil lässt sich nicht an diesem Pfad entlang führen.</translation>
    </message>
    <message>
        <source>The profile cannot be moved along this path: a bend is sharper than the profile is wide, or the path does not begin near the profile.</source>
        <translation>Das Profil lässt sich nicht an diesem Pfad entlang führen: ein Bogen ist enger, als das Profil breit ist, oder der Pfad beginnt nicht nahe beim Profil.</translation>
    </message>
    <message>
        <source>A layer of %1 mm does not fit over these faces. Try a thinner one or fewer faces.</source>
        <translation>Eine Schicht von %1 mm passt nicht auf diese Flächen. Eine dünnere oder weniger Flächen versuchen.</translation>
    </message>
    <message>
        <source>scan over the face</source>
        <translation>Scan über der Fläche</translation>
    </message>
    <message>
        <source>Face %1 cannot be triangulated.</source>
        <translation>Fläche %1 lässt sich nicht in Dreiecke zerlegen.</translation>
    </message>
    <message>
        <source>The model cannot be triangulated: %1</source>
        <translation>Das Modell lässt sich nicht in Dreiecke zerlegen: %1</translation>
    </message>
    <message>
        <source>The curve is gone. Choose another one.</source>
        <translation>Die Kurve gibt es nicht mehr. Eine andere wählen.</translation>
    </message>
    <message>
        <source>Choose a body that is a curve in space: this is a %1.</source>
        <translation>Einen Körper wählen, der eine Raumkurve ist: dies ist von der Art %1.</translation>
    </message>
    <message>
        <source>The curve is not one chain from end to end.</source>
        <translation>Die Kurve ist nicht eine Kette von Ende zu Ende.</translation>
    </message>
    <message>
        <source>Its sketch has been deleted. Pick another sketch or remove the step.</source>
        <translation>Die Skizze dazu ist gelöscht. Eine andere wählen oder den Schritt entfernen.</translation>
    </message>
    <message>
        <source>There is nothing to go through yet. Give a distance.</source>
        <translation>Es gibt noch nichts, durch das es gehen könnte. Einen Abstand angeben.</translation>
    </message>
    <message>
        <source>A thickness must be greater than zero.</source>
        <translation>Eine Dicke muss größer als null sein.</translation>
    </message>
    <message>
        <source>From and to are the same level: the feature has no height.</source>
        <translation>Von und bis sind dieselbe Höhe: der Schritt hat keine Höhe.</translation>
    </message>
    <message>
        <source>Material cannot be %1 a %2 body. Pick a solid.</source>
        <translation>Werkstoff lässt sich hier nicht %1: dies ist von der Art %2. Einen Vollkörper wählen.</translation>
    </message>
    <message>
        <source>The new material cannot be joined to the part.</source>
        <translation>Der neue Werkstoff lässt sich nicht mit dem Teil verbinden.</translation>
    </message>
    <message>
        <source>The cut cannot be made.</source>
        <translation>Der Ausschnitt lässt sich nicht herstellen.</translation>
    </message>
    <message>
        <source>There is nothing to cut yet. Add material first.</source>
        <translation>Es gibt noch nichts zu schneiden. Erst Werkstoff hinzufügen.</translation>
    </message>
    <message>
        <source>There is nothing to have in common with yet. Add material first.</source>
        <translation>Es gibt noch nichts, womit etwas gemeinsam wäre. Erst Werkstoff hinzufügen.</translation>
    </message>
    <message>
        <source>The profile lies wholly inside the part and adds nothing. Change its levels.</source>
        <translation>Das Profil liegt ganz im Teil und fügt nichts hinzu. Seine Höhen ändern.</translation>
    </message>
    <message>
        <source>The cut does not touch the part. Change its levels or its profile.</source>
        <translation>Der Ausschnitt berührt das Teil nicht. Seine Höhen oder sein Profil ändern.</translation>
    </message>
    <message>
        <source>The part lies wholly inside the profile: nothing changes.</source>
        <translation>Das Teil liegt ganz im Profil: nichts ändert sich.</translation>
    </message>
    <message>
        <source>The profile and the part have nothing in common.</source>
        <translation>Profil und Teil haben nichts gemeinsam.</translation>
    </message>
    <message>
        <source>The cut leaves nothing of the part.</source>
        <translation>Der Ausschnitt lässt vom Teil nichts übrig.</translation>
    </message>
    <message>
        <source>The two have nothing in common, or nothing would be left.</source>
        <translation>Die beiden haben nichts gemeinsam, oder es bliebe nichts übrig.</translation>
    </message>
    <message>
        <source>The body that this step makes has no inside: it lies in itself or crosses itself. Change its path, its profile or its numbers.</source>
        <translation>Der Körper dieses Schritts hat kein Inneres: er liegt in sich selbst oder durchdringt sich. Seinen Pfad, sein Profil oder seine Zahlen ändern.</translation>
    </message>
    <message>
        <source>A surface has no inside to cut with. Split the body by it instead.</source>
        <translation>Eine Fläche hat kein Inneres, mit dem sich schneiden ließe. Stattdessen den Körper an ihr teilen.</translation>
    </message>
    <message>
        <source>Only a plane, cylinder or cone can end an extrude. Pick another surface.</source>
        <translation>Nur eine Ebene, ein Zylinder oder ein Kegel kann eine Extrusion beenden. Eine andere Fläche wählen.</translation>
    </message>
    <message>
        <source>The profile does not run into the surface everywhere. Pick another surface.</source>
        <translation>Das Profil läuft nicht überall in die Fläche. Eine andere Fläche wählen.</translation>
    </message>
    <message>
        <source>The surface lies on both sides of the profile. Change the level it starts from.</source>
        <translation>Die Fläche liegt auf beiden Seiten des Profils. Die Höhe ändern, bei der es beginnt.</translation>
    </message>
    <message>
        <source>The sketch has no closed profile.</source>
        <translation>Die Skizze hat kein geschlossenes Profil.</translation>
    </message>
    <message>
        <source>The profile cannot be ended at this surface.</source>
        <translation>Das Profil kann nicht an dieser Fläche enden.</translation>
    </message>
    <message>
        <source>Nothing is left between the profile and this surface.</source>
        <translation>Zwischen Profil und dieser Fläche bleibt nichts.</translation>
    </message>
    <message>
        <source>The fit it refers to is gone. Pick another one.</source>
        <translation>Das Element, auf das es sich bezieht, gibt es nicht mehr. Ein anderes wählen.</translation>
    </message>
    <message>
        <source>Pick a datum, a face of the model or a fit.</source>
        <translation>Einen Bezug, eine Fläche des Modells oder ein Ausgleichselement wählen.</translation>
    </message>
    <message>
        <source>Face %1 is neither flat nor turned about an axis. Pick another face.</source>
        <translation>Fläche %1 ist weder eben noch um eine Achse gedreht. Eine andere Fläche wählen.</translation>
    </message>
    <message>
        <source>The tolerance must not be below zero.</source>
        <translation>Die Toleranz darf nicht unter null liegen.</translation>
    </message>
    <message>
        <source>A free body is made of a closed scan; this one has %1 open and %2 non-manifold edges. Mend and fill it (Clean), or use Patch on areas of it.</source>
        <translation>Ein Freiformkörper entsteht aus einem geschlossenen Scan; dieser hat %1 offene und %2 mehrfach belegte Kanten. Ihn ausbessern und füllen (Säubern) oder Freiformflächen auf Bereichen davon nehmen.</translation>
    </message>
    <message>
        <source>The scan has %1 parts that do not hang together. Drop the islands first (Clean).</source>
        <translation>Der Scan hat %1 Teile, die nicht zusammenhängen. Erst die Inseln wegwerfen (Säubern).</translation>
    </message>
    <message>
        <source>The points of this shape do not determine its patches.</source>
        <translation>Die Punkte dieser Form bestimmen ihre Flächenstücke nicht.</translation>
    </message>
    <message>
        <source>This area closes on itself or folds, so that one face cannot be laid through it. Choose a part of it.</source>
        <translation>Dieser Bereich schließt sich in sich selbst oder faltet sich, so dass keine eine Fläche durch ihn passt. Ein Stück davon wählen.</translation>
    </message>
    <message>
        <source>An area of %1 points is too small for a face.</source>
        <translation>Ein Bereich von %1 Punkten ist zu klein für eine Fläche.</translation>
    </message>
    <message>
        <source>The points of this area do not determine a face.</source>
        <translation>Die Punkte dieses Bereichs bestimmen keine Fläche.</translation>
    </message>
    <message>
        <source>No layout of patches lies around this shape without folds: it is too thin or too rugged somewhere. Use Patch on areas of it.</source>
        <translation>Um diese Form liegt keine Aufteilung in Flächenstücke ohne Falten: sie ist irgendwo zu dünn oder zu zerklüftet. Freiformflächen auf Bereichen davon nehmen.</translation>
    </message>
    <message>
        <source>The holes and handles of this shape are not caught by up to 3000 patches: it is too thin somewhere. Use Patch on areas of it.</source>
        <translation>Die Löcher und Henkel dieser Form werden von bis zu 3000 Flächenstücken nicht erfasst: sie ist irgendwo zu dünn. Freiformflächen auf Bereichen davon nehmen.</translation>
    </message>
    <message>
        <source>Pick a place on the pipe first.</source>
        <translation>Zuerst eine Stelle auf dem Rohr wählen.</translation>
    </message>
    <message>
        <source>There are too few points for a pipe.</source>
        <translation>Für ein Rohr sind es zu wenige Punkte.</translation>
    </message>
    <message>
        <source>The picks lie on pipes of different radii: %1 and %2 mm.</source>
        <translation>Die gewählten Stellen liegen auf Rohren verschiedener Radien: %1 und %2 mm.</translation>
    </message>
    <message>
        <source>The round surface at the pick is shorter than it is thick: no centre line can be told.</source>
        <translation>Die runde Fläche an der Stelle ist kürzer, als sie dick ist: keine Mittellinie lässt sich sagen.</translation>
    </message>
    <message>
        <source>Too few points lie along the pipe.</source>
        <translation>Entlang dem Rohr liegen zu wenige Punkte.</translation>
    </message>
    <message>
        <source>The pipe is too short for a centre line.</source>
        <translation>Das Rohr ist zu kurz für eine Mittellinie.</translation>
    </message>
    <message>
        <source>The scan has no triangles.</source>
        <translation>Der Scan hat keine Dreiecke.</translation>
    </message>
    <message>
        <source>No surface of the scan lies near %1. Pick a place on the pipe.</source>
        <translation>Nahe %1 liegt keine Oberfläche des Scans. Eine Stelle auf dem Rohr wählen.</translation>
    </message>
    <message>
        <source>The surface at %1 is not round.</source>
        <translation>Die Oberfläche bei %1 ist nicht rund.</translation>
    </message>
    <message>
        <source>The centre line did not settle on the points.</source>
        <translation>Die Mittellinie kam auf den Punkten nicht zur Ruhe.</translation>
    </message>
    <message>
        <source>Give the body a name with letters in it.</source>
        <translation>Dem Körper einen Namen mit Buchstaben geben.</translation>
    </message>
    <message>
        <source>Pick a plane or an axis as %1.</source>
        <translation>Eine Ebene oder eine Achse wählen: %1.</translation>
    </message>
    <message>
        <source>best fit to %1</source>
        <translation>beste Einpassung auf %1</translation>
    </message>
    <message>
        <source>best fit</source>
        <translation>beste Einpassung</translation>
    </message>
    <message>
        <source>%1 has no surface.</source>
        <translation>%1 hat keine Oberfläche.</translation>
    </message>
    <message>
        <source>Pick %1 features for the %2.</source>
        <translation>%1 Elemente wählen: %2.</translation>
    </message>
    <message>
        <source>This feature is found on the scan, not constructed.</source>
        <translation>Dieses Element ist auf dem Scan gefunden, nicht konstruiert.</translation>
    </message>
    <message>
        <source>There is no such construction.</source>
        <translation>Eine solche Konstruktion gibt es nicht.</translation>
    </message>
    <message>
        <source>There is no survey yet.</source>
        <translation>Es gibt noch keine Aufnahme.</translation>
    </message>
    <message>
        <source>There is no region %1.</source>
        <translation>Bereich %1 gibt es nicht.</translation>
    </message>
    <message>
        <source>missing fit</source>
        <translation>fehlendes Element</translation>
    </message>
    <message>
        <source>%1 of %2</source>
        <translation>%1 von %2</translation>
    </message>
    <message>
        <source>%1 piece</source>
        <translation>%1 Stück</translation>
    </message>
    <message>
        <source>%1 holds no usable triangles.</source>
        <translation>%1 enthält keine brauchbaren Dreiecke.</translation>
    </message>
    <message>
        <source>⌀ %1 of %2</source>
        <translation>⌀ %1 von %2</translation>
    </message>
    <message>
        <source>R %1 of %2</source>
        <translation>R %1 von %2</translation>
    </message>
    <message>
        <source>arc length %1 of %2</source>
        <translation>Bogenlänge %1 von %2</translation>
    </message>
    <message>
        <source>along x, %1 to %2 of %3</source>
        <translation>längs x, %1 zu %2 von %3</translation>
    </message>
    <message>
        <source>along y, %1 to %2 of %3</source>
        <translation>längs y, %1 zu %2 von %3</translation>
    </message>
    <message>
        <source>angle %1 to %2 of %3</source>
        <translation>Winkel %1 zu %2 von %3</translation>
    </message>
    <message>
        <source>length %1</source>
        <translation>Länge %1</translation>
    </message>
    <message>
        <source>%1 to %2</source>
        <translation>%1 zu %2</translation>
    </message>
    <message>
        <source>section %1</source>
        <translation>Schnitt %1</translation>
    </message>
    <message>
        <source>typed in the sketch</source>
        <translation>in der Skizze eingetippt</translation>
    </message>
    <message>
        <source>as drawn in %1</source>
        <translation>wie gezeichnet in %1</translation>
    </message>
    <message>
        <source>This scan is no longer open.</source>
        <translation>Dieser Scan ist nicht mehr offen.</translation>
    </message>
    <message>
        <source>Sketch %1: %2</source>
        <translation>Skizze %1: %2</translation>
    </message>
    <message>
        <source>This sketch has been deleted.</source>
        <translation>Diese Skizze ist gelöscht.</translation>
    </message>
    <message>
        <source>Step %1 %2 rests on this sketch. Remove the step first.</source>
        <translation>Schritt %1 %2 ruht auf dieser Skizze. Erst den Schritt entfernen.</translation>
    </message>
    <message>
        <source>This step has been removed.</source>
        <translation>Dieser Schritt ist entfernt.</translation>
    </message>
    <message>
        <source>A %1 needs a name.</source>
        <translation>%1 braucht einen Namen.</translation>
    </message>
    <message>
        <source>This %1 is gone.</source>
        <translation>%1 gibt es nicht mehr.</translation>
    </message>
    <message>
        <source>A step needs a name.</source>
        <translation>Ein Schritt braucht einen Namen.</translation>
    </message>
    <message>
        <source>Pick the other fit of the relation.</source>
        <translation>Das andere Element der Beziehung wählen.</translation>
    </message>
    <message>
        <source>This fit is already gone.</source>
        <translation>Dieses Element gibt es schon nicht mehr.</translation>
    </message>
    <message>
        <source>The datum frame rests on %1. Change the frame first.</source>
        <translation>Der Bezug ruht auf %1. Erst den Bezug ändern.</translation>
    </message>
    <message>
        <source>%1 is made from %2.</source>
        <translation>%1 ist gebildet aus %2.</translation>
    </message>
    <message>
        <source>The Ledger row "%1" rests on %2.</source>
        <translation>Die Zeile „%1“ im Maßbuch ruht auf %2.</translation>
    </message>
    <message>
        <source>%1 is held %2 %3. Take that relation back first.</source>
        <translation>%1 wird gehalten: %2 %3. Erst diese Beziehung zurücknehmen.</translation>
    </message>
    <message>
        <source>Pick two planes or axes.</source>
        <translation>Zwei Ebenen oder Achsen wählen.</translation>
    </message>
    <message>
        <source>Pick two different fits.</source>
        <translation>Zwei verschiedene Elemente wählen.</translation>
    </message>
    <message>
        <source>A sphere has no direction to measure an angle to.</source>
        <translation>Eine Kugel hat keine Richtung, zu der sich ein Winkel messen ließe.</translation>
    </message>
    <message>
        <source>distance %1</source>
        <translation>Abstand %1</translation>
    </message>
    <message>
        <source>angle %1</source>
        <translation>Winkel %1</translation>
    </message>
    <message>
        <source>They are %1° from parallel, so they have no one distance. Measure the angle.</source>
        <translation>Sie sind %1° von parallel entfernt, haben also nicht einen Abstand. Den Winkel messen.</translation>
    </message>
    <message>
        <source>A scan that was to be joined is no longer open.</source>
        <translation>Ein Scan, der zusammengefügt werden sollte, ist nicht mehr offen.</translation>
    </message>
    <message>
        <source>This is not a number.</source>
        <translation>Das ist keine Zahl.</translation>
    </message>
    <message>
        <source>%1 must be greater than zero.</source>
        <translation>%1 muss größer als null sein.</translation>
    </message>
    <message>
        <source>This Ledger row is gone.</source>
        <translation>Diese Zeile im Maßbuch gibt es nicht mehr.</translation>
    </message>
    <message>
        <source>%1 has no reading to fall back on; type another value instead.</source>
        <translation>%1 hat keine Ablesung, auf die es zurückfallen könnte; stattdessen einen anderen Wert eintippen.</translation>
    </message>
    <message>
        <source>A Ledger row needs a name.</source>
        <translation>Eine Zeile im Maßbuch braucht einen Namen.</translation>
    </message>
    <message>
        <source>Type the reading as a number, and its U as one.</source>
        <translation>Die Ablesung als Zahl eintippen und ihr U ebenso.</translation>
    </message>
    <message>
        <source>This reading is gone.</source>
        <translation>Diese Ablesung gibt es nicht mehr.</translation>
    </message>
    <message>
        <source>The formula of %1 gives no number.</source>
        <translation>Die Formel von %1 ergibt keine Zahl.</translation>
    </message>
    <message>
        <source>The formula cannot be read at character %1 ("%2"). Write it as in [name] / 2 + 3.</source>
        <translation>Die Formel lässt sich bei Zeichen %1 („%2“) nicht lesen. Sie wie in [Name] / 2 + 3 schreiben.</translation>
    </message>
    <message>
        <source>A bracket is open: write [name] for another row.</source>
        <translation>Eine Klammer ist offen: [Name] für eine andere Zeile schreiben.</translation>
    </message>
    <message>
        <source>There is no row named "%1".</source>
        <translation>Eine Zeile namens „%1“ gibt es nicht.</translation>
    </message>
    <message>
        <source>Several rows are named "%1". Rename one of them first.</source>
        <translation>Mehrere Zeilen heißen „%1“. Erst eine davon umbenennen.</translation>
    </message>
    <message>
        <source>formula; a row it named is gone</source>
        <translation>Formel; eine genannte Zeile gibt es nicht mehr</translation>
    </message>
    <message>
        <source>There is no model to bring the scan upon.</source>
        <translation>Es gibt kein Modell, auf das der Scan gebracht werden könnte.</translation>
    </message>
    <message>
        <source>pitch across</source>
        <translation>Teilung quer</translation>
    </message>
    <message>
        <source>within %1 mm</source>
        <translation>innerhalb %1 mm</translation>
    </message>
    <message>
        <source>%1: %2 along %3, within %4°</source>
        <translation>%1: %2 längs %3, innerhalb %4°</translation>
    </message>
    <message>
        <source>%1: %2 surfaces about one axis, %3</source>
        <translation>%1: %2 Flächen um eine Achse, %3</translation>
    </message>
    <message>
        <source>%1: %2 of ⌀ %3 mm, %4</source>
        <translation>%1: %2 mit ⌀ %3 mm, %4</translation>
    </message>
    <message>
        <source> (%1 places empty)</source>
        <translation> (%1 Plätze leer)</translation>
    </message>
    <message>
        <source>%1: %2 places%3 on ⌀ %4 mm, first at %5°, %6</source>
        <translation>%1: %2 Plätze%3 auf ⌀ %4 mm, erster bei %5°, %6</translation>
    </message>
    <message>
        <source>%1: %2 at pitch %3 mm, %4</source>
        <translation>%1: %2 mit Teilung %3 mm, %4</translation>
    </message>
    <message>
        <source>%1: %2 × %3 at pitches %4 and %5 mm, %6</source>
        <translation>%1: %2 × %3 mit Teilungen %4 und %5 mm, %6</translation>
    </message>
    <message>
        <source>%1: %2 pairs in the plane square to %3, %4 % of the area</source>
        <translation>%1: %2 Paare in der Ebene rechtwinklig zu %3, %4 % der Fläche</translation>
    </message>
    <message>
        <source>%1: %2 walls at %3° to pull %4, within %5°</source>
        <translation>%1: %2 Wände im Winkel von %3° zur Formrichtung %4, innerhalb %5°</translation>
    </message>
    <message>
        <source>This pattern is gone. Split the scan again.</source>
        <translation>Diese Anordnung gibt es nicht mehr. Den Scan neu in Bereiche teilen.</translation>
    </message>
    <message>
        <source>scan; U smaller than the probe's</source>
        <translation>Scan; U kleiner als das des Tasters</translation>
    </message>
    <message>
        <source>touch probe</source>
        <translation>Taster</translation>
    </message>
    <message>
        <source>The scan has no regions to match the probed features with. Split it into regions first.</source>
        <translation>Der Scan hat keine Bereiche, denen sich die angetasteten Elemente zuordnen lassen. Ihn erst in Bereiche teilen.</translation>
    </message>
    <message>
        <source>Probe more before it is matched with the scan: %1 places on surfaces so far, %2 are needed; or say which features belong together.</source>
        <translation>Mehr antasten, ehe es dem Scan zugeordnet wird: bisher %1 Stellen auf Flächen, %2 sind nötig; oder sagen, welche Elemente zusammengehören.</translation>
    </message>
    <message>
        <source>A feature or a fit that was paired is not there.</source>
        <translation>Ein gepaartes Element gibt es nicht.</translation>
    </message>
    <message>
        <source>probed %1</source>
        <translation>angetastet: %1</translation>
    </message>
    <message>
        <source>half angle </source>
        <translation>halber Winkel </translation>
    </message>
    <message>
        <source>width of probed %1</source>
        <translation>Breite von angetastet %1</translation>
    </message>
    <message>
        <source>Pick the fits that the relation joins.</source>
        <translation>Die Elemente wählen, die die Beziehung verbindet.</translation>
    </message>
    <message>
        <source>%1 has no surface, so it can have no relation.</source>
        <translation>%1 hat keine Oberfläche und kann daher keine Beziehung haben.</translation>
    </message>
    <message>
        <source> in %1</source>
        <translation> in %1</translation>
    </message>
    <message>
        <source>: costs %1 mm RMS, </source>
        <translation>: kostet %1 mm RMS, </translation>
    </message>
    <message>
        <source>%1within noise</source>
        <translation>%1innerhalb des Rauschens</translation>
    </message>
    <message>
        <source>the part disagrees by </source>
        <translation>das Teil widerspricht um </translation>
    </message>
    <message>
        <source>no matter: it departs by </source>
        <translation>unerheblich: es weicht ab um </translation>
    </message>
    <message>
        <source>%1, %2 mm where its evidence ends, beside ±%3</source>
        <translation>%1, %2 mm, wo sein Befund endet, neben ±%3</translation>
    </message>
    <message>
        <source>%1 is a cloud of points. %2</source>
        <translation>%1 ist eine Punktwolke. %2</translation>
    </message>
    <message>
        <source>turn %1°</source>
        <translation>Drehung %1°</translation>
    </message>
    <message>
        <source>the normal of %1</source>
        <translation>die Normale von %1</translation>
    </message>
    <message>
        <source>outline along %1</source>
        <translation>Umriss längs %1</translation>
    </message>
    <message>
        <source> and %1 more</source>
        <translation> und %1 weitere</translation>
    </message>
    <message>
        <source>There is no scan to read from.</source>
        <translation>Es gibt keinen Scan, aus dem sich ablesen ließe.</translation>
    </message>
    <message>
        <source>Click an area of the scan for the patch.</source>
        <translation>Für die Freiformfläche einen Bereich des Scans anklicken.</translation>
    </message>
    <message>
        <source>region %1</source>
        <translation>Bereich %1</translation>
    </message>
    <message>
        <source>Walls that are all parallel have no direction of their own. Pick one across them, or an end as well.</source>
        <translation>Wände, die alle parallel sind, haben keine eigene Richtung. Eine quer dazu wählen oder auch ein Ende.</translation>
    </message>
    <message>
        <source>There are no regions yet. Survey the scan first.</source>
        <translation>Es gibt noch keine Bereiche. Erst den Scan aufnehmen.</translation>
    </message>
    <message>
        <source>Pick the walls first.</source>
        <translation>Zuerst die Wände wählen.</translation>
    </message>
    <message>
        <source>There is no %1.</source>
        <translation>%1 gibt es nicht.</translation>
    </message>
    <message>
        <source>The picks are free-form: pick a plane, cylinder or cone among the walls.</source>
        <translation>Das Gewählte ist Freiform: unter den Wänden eine Ebene, einen Zylinder oder einen Kegel wählen.</translation>
    </message>
    <message>
        <source>%1 does not run along the others. Leave it out.</source>
        <translation>%1 läuft nicht mit den anderen. Es weglassen.</translation>
    </message>
    <message>
        <source>The walls do not lie beside each other: no section goes through all of them.</source>
        <translation>Die Wände liegen nicht nebeneinander: kein Schnitt geht durch alle.</translation>
    </message>
    <message>
        <source>The section through these walls does not close. Pick the walls all round, or draw the profile in Trace.</source>
        <translation>Der Schnitt durch diese Wände schließt nicht. Die Wände ringsum wählen oder das Profil zeichnen.</translation>
    </message>
    <message>
        <source>flat of the scan</source>
        <translation>ebene Fläche des Scans</translation>
    </message>
    <message>
        <source>cut along </source>
        <translation>Ausschnitt längs </translation>
    </message>
    <message>
        <source>extrude along </source>
        <translation>Extrusion längs </translation>
    </message>
    <message>
        <source>an axis of its own</source>
        <translation>eine eigene Achse</translation>
    </message>
    <message>
        <source>%1: %2 at %3</source>
        <translation>%1: %2 bei %3</translation>
    </message>
    <message>
        <source>Pick a cylinder, cone or torus of what was turned.</source>
        <translation>Einen Zylinder, Kegel oder Torus des Gedrehten wählen.</translation>
    </message>
    <message>
        <source>The profile about this axis does not close. Take a fan section in Trace and close it by hand.</source>
        <translation>Das Profil um diese Achse schließt nicht. Einen Fächerschnitt zeichnen und von Hand schließen.</translation>
    </message>
    <message>
        <source>revolve about %1: %2</source>
        <translation>Drehung um %1: %2</translation>
    </message>
    <message>
        <source>The three points lie on a straight line. Pick one further round.</source>
        <translation>Die drei Punkte liegen auf einer Geraden. Einen weiter herum wählen.</translation>
    </message>
    <message>
        <source>Click the scan itself.</source>
        <translation>Den Scan selbst anklicken.</translation>
    </message>
    <message>
        <source>There is too little scan around this point. Click further inside.</source>
        <translation>Um diesen Punkt ist zu wenig Scan. Weiter innen klicken.</translation>
    </message>
    <message>
        <source>Pick three points.</source>
        <translation>Drei Punkte wählen.</translation>
    </message>
    <message>
        <source>The arc is too short for its radius: R %1. Pick the points further apart.</source>
        <translation>Der Bogen ist zu kurz für seinen Radius: R %1. Die Punkte weiter auseinander wählen.</translation>
    </message>
    <message>
        <source>Nothing lies opposite this point: the scan is open there.</source>
        <translation>Diesem Punkt liegt nichts gegenüber: der Scan ist dort offen.</translation>
    </message>
    <message>
        <source>Pick two different points.</source>
        <translation>Zwei verschiedene Punkte wählen.</translation>
    </message>
    <message>
        <source>picked on the scan</source>
        <translation>auf dem Scan gewählt</translation>
    </message>
    <message>
        <source>There is no scan that the curve could follow.</source>
        <translation>Es gibt keinen Scan, dem die Kurve folgen könnte.</translation>
    </message>
    <message>
        <source>There is no region %1 of the scan.</source>
        <translation>Einen Bereich %1 hat der Scan nicht.</translation>
    </message>
    <message>
        <source>drawn on the scan</source>
        <translation>auf dem Scan gezeichnet</translation>
    </message>
    <message>
        <source>The curve leaves the scan: there is a gap of about %1 mm on its way. Click places nearer to each other.</source>
        <translation>Die Kurve verlässt den Scan: auf ihrem Weg ist eine Lücke von etwa %1 mm. Stellen näher beieinander anklicken.</translation>
    </message>
    <message>
        <source>This region has no border that is long enough here.</source>
        <translation>Dieser Bereich hat hier keinen Rand, der lang genug ist.</translation>
    </message>
    <message>
        <source>border of %1</source>
        <translation>Rand von %1</translation>
    </message>
    <message>
        <source>%1 is no strip with a middle line: it is about as wide as long, forks, or closes.</source>
        <translation>%1 ist kein Streifen mit einer Mittellinie: etwa so breit wie lang, verzweigt oder geschlossen.</translation>
    </message>
    <message>
        <source>middle of %1</source>
        <translation>Mitte von %1</translation>
    </message>
    <message>
        <source>A sketch without curves crosses nothing.</source>
        <translation>Eine Skizze ohne Kurven kreuzt nichts.</translation>
    </message>
    <message>
        <source>The two sketches lie in parallel planes: drawn along their normals they do not cross in a curve.</source>
        <translation>Die beiden Skizzen liegen in parallelen Ebenen: längs ihrer Normalen gezogen, kreuzen sie sich in keiner Kurve.</translation>
    </message>
    <message>
        <source>The curves of %1 and %2, drawn along their normals, do not meet.</source>
        <translation>Die Kurven von %1 und %2, längs ihrer Normalen gezogen, treffen sich nicht.</translation>
    </message>
    <message>
        <source>crossing of %1 and %2</source>
        <translation>Kreuzung von %1 und %2</translation>
    </message>
    <message>
        <source>This Ledger row does not shape the model.</source>
        <translation>Diese Zeile im Maßbuch formt das Modell nicht.</translation>
    </message>
    <message>
        <source>There is no model to compare with the scan yet.</source>
        <translation>Es gibt noch kein Modell, mit dem der Scan verglichen werden könnte.</translation>
    </message>
    <message>
        <source>The model breaks for every other value of %1.</source>
        <translation>Für jeden anderen Wert von %1 zerbricht das Modell.</translation>
    </message>
    <message>
        <source>The scan shows nothing of what %1 moves.</source>
        <translation>Der Scan zeigt nichts von dem, was %1 bewegt.</translation>
    </message>
    <message>
        <source>The model breaks for nearly every other value of %1.</source>
        <translation>Für fast jeden anderen Wert von %1 zerbricht das Modell.</translation>
    </message>
    <message>
        <source>longest side %1 in the file: read as %2 it is %3 mm</source>
        <translation>längste Seite %1 in der Datei: als %2 gelesen sind es %3 mm</translation>
    </message>
    <message>
        <source> with points %1 mm apart</source>
        <translation> mit Punkten im Abstand von %1 mm</translation>
    </message>
    <message>
        <source>The scan has no open border: nothing is missing.</source>
        <translation>Der Scan hat keinen offenen Rand: nichts fehlt.</translation>
    </message>
    <message>
        <source>The scan cannot be taken as a surface: %1</source>
        <translation>Der Scan lässt sich nicht als Oberfläche nehmen: %1</translation>
    </message>
    <message>
        <source>A spacing must be greater than zero.</source>
        <translation>Ein Punktabstand muss größer als null sein.</translation>
    </message>
    <message>
        <source>The scan cannot be thinned: %1</source>
        <translation>Der Scan lässt sich nicht ausdünnen: %1</translation>
    </message>
    <message>
        <source>An edge length must be greater than zero.</source>
        <translation>Eine Kantenlänge muss größer als null sein.</translation>
    </message>
    <message>
        <source>The scan cannot be meshed anew: %1</source>
        <translation>Der Scan lässt sich nicht neu vernetzen: %1</translation>
    </message>
    <message>
        <source>There are no triangles to outline.</source>
        <translation>Es gibt keine Dreiecke, um die ein Umriss ginge.</translation>
    </message>
    <message>
        <source>Seen along this direction the scan covers nothing.</source>
        <translation>Längs dieser Richtung gesehen verdeckt der Scan nichts.</translation>
    </message>
    <message>
        <source>Nothing of the outline is left so far inside. Use a smaller offset.</source>
        <translation>So weit innen bleibt vom Umriss nichts. Einen kleineren Versatz nehmen.</translation>
    </message>
    <message>
        <source>A stretch of %1 points is too short for a curve.</source>
        <translation>Ein Stück von %1 Punkten ist zu kurz für eine Kurve.</translation>
    </message>
    <message>
        <source>The points of this stretch do not determine such a curve.</source>
        <translation>Die Punkte dieses Stücks bestimmen keine solche Kurve.</translation>
    </message>
    <message>
        <source>Tolerance, noise and spacing must not be below zero.</source>
        <translation>Toleranz, Rauschen und Punktabstand dürfen nicht unter null liegen.</translation>
    </message>
    <message>
        <source>A stretch of %1 points is too short to resolve.</source>
        <translation>Ein Stück von %1 Punkten ist zu kurz zum Auflösen.</translation>
    </message>
    <message>
        <source>The points of this stretch fall together.</source>
        <translation>Die Punkte dieses Stücks fallen zusammen.</translation>
    </message>
    <message>
        <source>Pick two points, lines or circles, then the line, first.</source>
        <translation>Erst zwei Punkte, Linien oder Kreise wählen, dann die Linie.</translation>
    </message>
    <message>
        <source>Pick one arc first.</source>
        <translation>Erst einen Bogen wählen.</translation>
    </message>
    <message>
        <source>A line, or two points or circles, can be horizontal or vertical: pick those first.</source>
        <translation>Waagrecht (horizontal) oder senkrecht kann eine Linie sein oder was zwei Punkte oder Kreise verbindet: diese zuerst wählen.</translation>
    </message>
    <message>
        <source>Pick a line, or two points or circles, first.</source>
        <translation>Erst eine Linie oder zwei Punkte oder Kreise wählen.</translation>
    </message>
    <message>
        <source>Pick one or two lines, arcs or points first.</source>
        <translation>Erst eine oder zwei Linien, Bögen oder Punkte wählen.</translation>
    </message>
    <message>
        <source>Pick a point and a line first.</source>
        <translation>Erst einen Punkt und eine Linie wählen.</translation>
    </message>
    <message>
        <source>Pick a circle, an arc, a line, or two things first.</source>
        <translation>Erst einen Kreis, einen Bogen, eine Linie oder zwei Dinge wählen.</translation>
    </message>
    <message>
        <source>Pick the two lines of the angle first.</source>
        <translation>Erst die zwei Linien des Winkels wählen.</translation>
    </message>
    <message>
        <source>Pick curves or points first.</source>
        <translation>Erst Kurven oder Punkte wählen.</translation>
    </message>
    <message>
        <source>The scale must be above 0.</source>
        <translation>Der Maßstab muss über 0 liegen.</translation>
    </message>
    <message>
        <source>Constraints with the rest of the sketch do not let it go there.</source>
        <translation>Bedingungen mit dem Rest der Skizze lassen es nicht dorthin.</translation>
    </message>
    <message>
        <source>Between 1 and 500 copies can be made.</source>
        <translation>Zwischen 1 und 500 Kopien lassen sich machen.</translation>
    </message>
    <message>
        <source>This curve is gone.</source>
        <translation>Diese Kurve gibt es nicht mehr.</translation>
    </message>
    <message>
        <source>%1 has no ends: trim it instead.</source>
        <translation>%1 hat keine Enden: stattdessen stutzen.</translation>
    </message>
    <message>
        <source>This place is an end of the curve already.</source>
        <translation>Diese Stelle ist schon ein Ende der Kurve.</translation>
    </message>
    <message>
        <source>A curve is gone.</source>
        <translation>Eine Kurve gibt es nicht mehr.</translation>
    </message>
    <message>
        <source>Two lines or two arcs can be joined.</source>
        <translation>Zwei Linien oder zwei Bögen lassen sich verbinden.</translation>
    </message>
    <message>
        <source>%1 does not lie on the curve of %2.</source>
        <translation>%1 liegt nicht auf der Kurve von %2.</translation>
    </message>
    <message>
        <source>A corner needs two different lines.</source>
        <translation>Eine Ecke braucht zwei verschiedene Linien.</translation>
    </message>
    <message>
        <source>The corner's radius must be zero or more.</source>
        <translation>Der Radius der Ecke muss null oder mehr sein.</translation>
    </message>
    <message>
        <source>The two lines are not of one outline.</source>
        <translation>Die beiden Linien gehören nicht zu einem Umriss.</translation>
    </message>
    <message>
        <source>The two lines are nearly parallel and do not make a corner.</source>
        <translation>Die beiden Linien sind fast parallel und bilden keine Ecke.</translation>
    </message>
    <message>
        <source>The lines do not run towards a common corner, or the radius is too large for them.</source>
        <translation>Die Linien laufen auf keine gemeinsame Ecke zu, oder der Radius ist zu groß für sie.</translation>
    </message>
    <message>
        <source>ellipse arc</source>
        <translation>Ellipsenbogen</translation>
    </message>
    <message>
        <source>There is no offset of %1.</source>
        <translation>Zu %1 gibt es keinen Versatz.</translation>
    </message>
    <message>
        <source>closed spline</source>
        <translation>geschlossener Spline</translation>
    </message>
    <message>
        <source>Two of these places fall together. Click them apart.</source>
        <translation>Zwei dieser Stellen fallen zusammen. Sie auseinander anklicken.</translation>
    </message>
    <message>
        <source>A polygon has 3 to 60 sides.</source>
        <translation>Ein Vieleck hat 3 bis 60 Seiten.</translation>
    </message>
    <message>
        <source>These three places lie in a line: no circle goes through them.</source>
        <translation>Diese drei Stellen liegen auf einer Geraden: kein Kreis geht durch sie.</translation>
    </message>
    <message>
        <source>A closed spline needs three places.</source>
        <translation>Ein geschlossener Spline braucht drei Stellen.</translation>
    </message>
    <message>
        <source>A spline needs two places.</source>
        <translation>Ein Spline braucht zwei Stellen.</translation>
    </message>
    <message>
        <source>This line or arc is gone.</source>
        <translation>Diese Linie oder diesen Bogen gibt es nicht mehr.</translation>
    </message>
    <message>
        <source>Type how far the copy shall lie away.</source>
        <translation>Eintippen, wie weit weg die Kopie liegen soll.</translation>
    </message>
    <message>
        <source>Pick the curves that are to be drawn anew first.</source>
        <translation>Erst die Kurven wählen, die neu gezeichnet werden sollen.</translation>
    </message>
    <message>
        <source>Pick one outline, or curves along one stretch.</source>
        <translation>Einen Umriss wählen oder Kurven entlang einem Stück.</translation>
    </message>
    <message>
        <source>No section points lie along the picks: nothing tells the curve.</source>
        <translation>Entlang dem Gewählten liegen keine Schnittpunkte: nichts sagt die Kurve.</translation>
    </message>
    <message>
        <source>The picks %1: they cannot become a %2.</source>
        <translation>Das Gewählte %1: daraus wird nicht: %2.</translation>
    </message>
    <message>
        <source>These constraints contradict each other: %1. Delete or lift one of them.</source>
        <translation>Diese Bedingungen widersprechen sich: %1. Eine davon löschen oder aufheben.</translation>
    </message>
    <message>
        <source>No section points lie near the sketch, so there is nothing to fit it to.</source>
        <translation>Nahe der Skizze liegen keine Schnittpunkte, nach denen sie sich ausgleichen ließe.</translation>
    </message>
    <message>
        <source>The sketch did not settle on the section.</source>
        <translation>Die Skizze kam auf dem Schnitt nicht zur Ruhe.</translation>
    </message>
    <message>
        <source>centre of %1</source>
        <translation>Mitte von %1</translation>
    </message>
    <message>
        <source>pole of %1</source>
        <translation>Pol von %1</translation>
    </message>
    <message>
        <source>point %1</source>
        <translation>Punkt %1</translation>
    </message>
    <message>
        <source>This point cannot be dragged.</source>
        <translation>Dieser Punkt lässt sich nicht ziehen.</translation>
    </message>
    <message>
        <source>The constraints do not let the point go there.</source>
        <translation>Die Bedingungen lassen den Punkt nicht dorthin.</translation>
    </message>
    <message>
        <source>an equation touches too many unknowns</source>
        <translation>eine Gleichung berührt zu viele Unbekannte</translation>
    </message>
    <message>
        <source>The constraint %1 does not go with these things.</source>
        <translation>Die Bedingung %1 passt nicht zu diesen Dingen.</translation>
    </message>
    <message>
        <source>%1 has no end to extend.</source>
        <translation>%1 hat kein Ende zum Verlängern.</translation>
    </message>
    <message>
        <source>Nothing lies ahead of this end.</source>
        <translation>Vor diesem Ende liegt nichts.</translation>
    </message>
    <message>
        <source>Pick a line to mirror about last.</source>
        <translation>Zuletzt eine Linie wählen, an der gespiegelt wird.</translation>
    </message>
    <message>
        <source>Pick what is to be mirrored first.</source>
        <translation>Erst wählen, was gespiegelt werden soll.</translation>
    </message>
    <message>
        <source>letter %1</source>
        <translation>Buchstabe %1</translation>
    </message>
    <message>
        <source>%1 in</source>
        <translation>%1 Zoll</translation>
    </message>
    <message>
        <source>"%1" is not a tolerance class in the tables. Give one such as H7, g6, JS7.</source>
        <translation>„%1“ ist keine Toleranzklasse der Tabellen. Eine wie H7, g6, JS7 angeben.</translation>
    </message>
    <message>
        <source>ISO 286-1 limits are tabled from 0 to 500 mm here.</source>
        <translation>Die Grenzmaße nach ISO 286-1 stehen hier von 0 bis 500 mm.</translation>
    </message>
    <message>
        <source>clearance fit</source>
        <translation>Spielpassung</translation>
    </message>
    <message>
        <source>interference fit</source>
        <translation>Presspassung</translation>
    </message>
    <message>
        <source>transition fit</source>
        <translation>Übergangspassung</translation>
    </message>
    <message>
        <source>as far as castings go</source>
        <translation>soweit Guss es vermag</translation>
    </message>
    <message>
        <source>as far as forming goes</source>
        <translation>soweit Umformen es vermag</translation>
    </message>
    <message>
        <source>%1: %2 off the reading, %3</source>
        <translation>%1: %2 neben der Ablesung, %3</translation>
    </message>
    <message>
        <source>tap drill</source>
        <translation>Kernloch</translation>
    </message>
    <message>
        <source>common draft</source>
        <translation>übliche Formschräge</translation>
    </message>
    <message>
        <source>, also %1</source>
        <translation>, auch %1</translation>
    </message>
    <message>
        <source>on the datum</source>
        <translation>auf dem Bezug</translation>
    </message>
    <message>
        <source>whole ten</source>
        <translation>ganzer Zehner</translation>
    </message>
    <message>
        <source>whole five</source>
        <translation>ganzer Fünfer</translation>
    </message>
    <message>
        <source>common angle</source>
        <translation>üblicher Winkel</translation>
    </message>
    <message>
        <source>ISO 15, bearing %1 %2</source>
        <translation>ISO 15, Lager %1 %2</translation>
    </message>
    <message>
        <source>inch drill %1</source>
        <translation>Zollbohrer %1</translation>
    </message>
    <message>
        <source>tap drill %1</source>
        <translation>Kernlochbohrer %1</translation>
    </message>
    <message>
        <source>ISO 724, %1 minor diameter</source>
        <translation>ISO 724, %1 Kerndurchmesser</translation>
    </message>
    <message>
        <source>ISO 273, %1 fine</source>
        <translation>ISO 273, %1 fein</translation>
    </message>
    <message>
        <source>ISO 273, %1 medium</source>
        <translation>ISO 273, %1 mittel</translation>
    </message>
    <message>
        <source>ISO 273, %1 coarse</source>
        <translation>ISO 273, %1 grob</translation>
    </message>
    <message>
        <source>, would be %1</source>
        <translation>, wäre %1</translation>
    </message>
    <message>
        <source>a face is damaged</source>
        <translation>eine Fläche ist beschädigt</translation>
    </message>
    <message>
        <source>a path has another number of bends than corners</source>
        <translation>ein Verlauf hat eine andere Zahl von Bögen als Ecken</translation>
    </message>
    <message>
        <source>unknown name "%1"</source>
        <translation>unbekannter Name „%1“</translation>
    </message>
    <message>
        <source>a step's parts are no object</source>
        <translation>die Teile eines Schritts sind kein Objekt</translation>
    </message>
    <message>
        <source>step %1 is of a kind that this version does not know</source>
        <translation>Schritt %1 ist von einer Art, die diese Fassung nicht kennt</translation>
    </message>
    <message>
        <source>the model %1 is missing</source>
        <translation>das Modell %1 fehlt</translation>
    </message>
    <message>
        <source>%1 in %2</source>
        <translation>%1 in %2</translation>
    </message>
    <message>
        <source>the model %1 is not the one that was saved</source>
        <translation>das Modell %1 ist nicht das gespeicherte</translation>
    </message>
    <message>
        <source>curve %1 of sketch %2</source>
        <translation>Kurve %1 von Skizze %2</translation>
    </message>
    <message>
        <source>constraint %1 of sketch %2</source>
        <translation>Bedingung %1 von Skizze %2</translation>
    </message>
    <message>
        <source>Cannot save %1: %2.</source>
        <translation>%1 lässt sich nicht speichern: %2.</translation>
    </message>
    <message>
        <source>%1 is damaged: %2. Open a backup copy of it.</source>
        <translation>%1 ist beschädigt: %2. Eine Sicherungskopie davon öffnen.</translation>
    </message>
    <message>
        <source>%1 is no project file, or is cut off: it cannot be opened as an archive.</source>
        <translation>%1 ist keine Projektdatei oder abgeschnitten: sie lässt sich nicht als Archiv öffnen.</translation>
    </message>
    <message>
        <source>its manifest is missing or unreadable</source>
        <translation>ihr Inhaltsverzeichnis fehlt oder ist unlesbar</translation>
    </message>
    <message>
        <source>%1 is no Lost Line project.</source>
        <translation>%1 ist kein Lost-Line-Projekt.</translation>
    </message>
    <message>
        <source>%1 was saved by a newer version of Lost Line. Update the program to open it.</source>
        <translation>%1 wurde von einer neueren Fassung von Lost Line gespeichert. Das Programm erneuern, um es zu öffnen.</translation>
    </message>
    <message>
        <source>%1 names something that is not there</source>
        <translation>%1 nennt etwas, das es nicht gibt</translation>
    </message>
    <message>
        <source>the scan data is incomplete</source>
        <translation>die Scandaten sind unvollständig</translation>
    </message>
    <message>
        <source>the scan holds a coordinate that is no number</source>
        <translation>der Scan enthält eine Koordinate, die keine Zahl ist</translation>
    </message>
    <message>
        <source>the scan names points that are not there</source>
        <translation>der Scan nennt Punkte, die es nicht gibt</translation>
    </message>
    <message>
        <source>step %1: %2</source>
        <translation>Schritt %1: %2</translation>
    </message>
    <message>
        <source>the regions are incomplete</source>
        <translation>die Bereiche sind unvollständig</translation>
    </message>
    <message>
        <source>a triangle names a region that is not there</source>
        <translation>ein Dreieck nennt einen Bereich, den es nicht gibt</translation>
    </message>
    <message>
        <source>the evidence of %1 is incomplete</source>
        <translation>der Befund von %1 ist unvollständig</translation>
    </message>
    <message>
        <source>%1 names triangles that the scan does not have</source>
        <translation>%1 nennt Dreiecke, die der Scan nicht hat</translation>
    </message>
    <message>
        <source>its manifest cannot be understood (%1)</source>
        <translation>ihr Inhaltsverzeichnis ist nicht zu verstehen (%1)</translation>
    </message>
    <message>
        <source>Region %1 is locked. Unlock it first.</source>
        <translation>Bereich %1 ist gesperrt. Ihn erst entsperren.</translation>
    </message>
    <message>
        <source>Pick two regions or more to merge.</source>
        <translation>Zwei Bereiche oder mehr zum Verbinden wählen.</translation>
    </message>
    <message>
        <source>Nothing is selected.</source>
        <translation>Nichts ist gewählt.</translation>
    </message>
    <message>
        <source>The line does not cross region %1. Draw it across.</source>
        <translation>Die Linie kreuzt Bereich %1 nicht. Sie quer darüber ziehen.</translation>
    </message>
    <message>
        <source>Region %1 is too narrow to shrink.</source>
        <translation>Bereich %1 ist zu schmal zum Schrumpfen.</translation>
    </message>
    <message>
        <source>parallel family</source>
        <translation>parallele Familie</translation>
    </message>
    <message>
        <source>coaxial stack</source>
        <translation>fluchtender Stapel</translation>
    </message>
    <message>
        <source>equal diameters</source>
        <translation>gleiche Durchmesser</translation>
    </message>
    <message>
        <source>mirrored pairs</source>
        <translation>gespiegelte Paare</translation>
    </message>
    <message>
        <source>The scan has only %1 triangles; a survey needs at least 100.</source>
        <translation>Der Scan hat nur %1 Dreiecke; eine Aufnahme braucht mindestens 100.</translation>
    </message>
    <message>
        <source>Stopped at your request.</source>
        <translation>Auf Wunsch angehalten.</translation>
    </message>
    <message>
        <source>copy body</source>
        <translation>Körper kopieren</translation>
    </message>
    <message>
        <source>move body</source>
        <translation>Körper bewegen</translation>
    </message>
    <message>
        <source>offset face</source>
        <translation>Fläche versetzen</translation>
    </message>
    <message>
        <source>remove body</source>
        <translation>Körper entfernen</translation>
    </message>
    <message>
        <source>untitled part</source>
        <translation>unbenanntes Teil</translation>
    </message>
    <message>
        <source>The distance is larger than the radius of %1.</source>
        <translation>Der Abstand ist größer als der Radius von %1.</translation>
    </message>
    <message>
        <source>There is no region %1: the survey has %2.</source>
        <translation>Einen Bereich %1 gibt es nicht: Die Aufnahme hat %2.</translation>
    </message>
    <message>
        <source>%1, in part</source>
        <translation>%1, zum Teil</translation>
    </message>
    <message>
        <source>This curve cannot be drawn in the plane of the sketch.</source>
        <translation>Diese Kurve lässt sich in der Ebene der Skizze nicht zeichnen.</translation>
    </message>
    <message>
        <source>What is seen in the plane of the sketch could not be computed.</source>
        <translation>Was in der Ebene der Skizze zu sehen ist, ließ sich nicht berechnen.</translation>
    </message>
    <message>
        <source>The plane of the sketch does not cut the model.</source>
        <translation>Die Ebene der Skizze schneidet das Modell nicht.</translation>
    </message>
    <message>
        <source>The model cannot be cut by the plane of the sketch.</source>
        <translation>Das Modell lässt sich mit der Ebene der Skizze nicht schneiden.</translation>
    </message>
    <message>
        <source>This is gone, or free-form: it has no axis and no plane.</source>
        <translation>Das ist nicht mehr da oder frei geformt: Es hat weder Achse noch Ebene.</translation>
    </message>
    <message>
        <source>%1 lies along the plane of the sketch: they meet in no line that could be relied on.</source>
        <translation>%1 liegt längs der Ebene der Skizze: Sie treffen sich in keiner Geraden, auf die Verlass wäre.</translation>
    </message>
    <message>
        <source>The stretch ends at %1 mm along the pipe and begins at %2 mm. Let it end behind where it begins.</source>
        <translation>Das Stück endet bei %1 mm am Rohr entlang und beginnt bei %2 mm. Es muss hinter seinem Anfang enden.</translation>
    </message>
    <message>
        <source>Along a curve the pipe takes all of it. Break the curve for a stretch.</source>
        <translation>An einer Kurve entlang nimmt das Rohr sie ganz. Für ein Stück die Kurve trennen.</translation>
    </message>
    <message>
        <source>The pipe has no centre line to read along.</source>
        <translation>Das Rohr hat keine Mittellinie, an der abzulesen wäre.</translation>
    </message>
    <message>
        <source>No surface of the scan lies near the place.</source>
        <translation>Keine Fläche des Scans liegt nahe der Stelle.</translation>
    </message>
    <message>
        <source>The surface there does not run along the pipe. Click the round wall of the stretch that has another radius.</source>
        <translation>Die Fläche dort läuft nicht am Rohr entlang. Die runde Wand des Stücks mit dem anderen Radius anklicken.</translation>
    </message>
    <message>
        <source>Too few points of the scan lie round the pipe there.</source>
        <translation>Dort liegen zu wenige Punkte des Scans um das Rohr.</translation>
    </message>
    <message>
        <source>The pipe has its own radius of %1 mm there. Click where it is thicker or thinner.</source>
        <translation>Das Rohr hat dort seinen eigenen Radius von %1 mm. Anklicken, wo es dicker oder dünner ist.</translation>
    </message>
    <message>
        <source>A pipe along a curve has no stretches. Choose one that was clicked on the scan.</source>
        <translation>Ein Rohr an einer Kurve entlang hat keine Stücke. Eines wählen, das auf dem Scan angeklickt wurde.</translation>
    </message>
    <message>
        <source>This did not work out (%1). Nothing was changed; save, and try another way.</source>
        <translation>Das ging nicht (%1). Nichts wurde geändert; speichern und einen anderen Weg versuchen.</translation>
    </message>
    <message>
        <source>The memory does not suffice for this. Nothing was changed.</source>
        <translation>Dafür reicht der Speicher nicht. Nichts wurde geändert.</translation>
    </message>
    <message>
        <source>%1 was stopped. Nothing was changed.</source>
        <translation>%1 wurde abgebrochen. Nichts wurde geändert.</translation>
    </message>
    <message>
        <source>Only fits, sketches and scans beside can be removed here. Regions are changed by Repaint, steps in the Route.</source>
        <translation>Hier lassen sich nur Elemente, Skizzen und Scans daneben entfernen. Bereiche ändert Umfärben, Schritte die Route.</translation>
    </message>
    <message>
        <source>&quot;%1&quot; cannot be read. Write the instrument, the value and its U, as in: caliper 62.01 +- 0.02</source>
        <translation>„%1“ ist nicht lesbar. Messmittel, Wert und U schreiben, wie in: Messschieber 62.01 +- 0.02</translation>
    </message>
    <message>
        <source>&quot;%1&quot; is not a number. Type the value in mm or degrees.</source>
        <translation>„%1“ ist keine Zahl. Den Wert in mm oder Grad eingeben.</translation>
    </message>
    <message>
        <source>The scan changed meanwhile, so this was not done. Select again.</source>
        <translation>Der Scan hat sich inzwischen geändert, darum wurde nichts getan. Neu auswählen.</translation>
    </message>
    <message>
        <source>The scan is gone, so this was not done.</source>
        <translation>Der Scan ist weg, darum wurde nichts getan.</translation>
    </message>
    <message>
        <source>%1 is a probe, not a scanner.</source>
        <translation>%1 ist ein Taster, kein Scanner.</translation>
    </message>
    <message>
        <source>%1 is a scanner, not a probe.</source>
        <translation>%1 ist ein Scanner, kein Taster.</translation>
    </message>
    <message>
        <source>The open scans are others by now, so this was not done.</source>
        <translation>Inzwischen sind andere Scans offen, darum wurde nichts getan.</translation>
    </message>
    <message>
        <source>%1: the end of the name tells no format. End it as one of those in the list of what to write.</source>
        <translation>%1: Das Ende des Namens nennt kein Format. Wie eines aus der Liste enden lassen.</translation>
    </message>
    <message>
        <source>There is no sketch to write. Take a section first.</source>
        <translation>Es gibt keine Skizze zum Schreiben. Erst einen Schnitt legen.</translation>
    </message>
    <message>
        <source>The deviation is not known yet. Wait for it.</source>
        <translation>Die Abweichung ist noch nicht bekannt. Auf sie warten.</translation>
    </message>
    <message>
        <source>There are no regions yet.</source>
        <translation>Es gibt noch keine Bereiche.</translation>
    </message>
    <message>
        <source>Pick the two lines or arcs that are one.</source>
        <translation>Die zwei Geraden oder Bögen wählen, die eins sind.</translation>
    </message>
    <message>
        <source>Pick curves first.</source>
        <translation>Erst Kurven wählen.</translation>
    </message>
    <message>
        <source>These places fall together. Click them apart.</source>
        <translation>Diese Stellen fallen zusammen. Auseinander klicken.</translation>
    </message>
    <message>
        <source>This sketch has no section that could be followed. Draw with the other pens.</source>
        <translation>Diese Skizze hat keinen Schnitt, dem zu folgen wäre. Mit den anderen Stiften zeichnen.</translation>
    </message>
    <message>
        <source>No section lies here. Click on the section.</source>
        <translation>Hier liegt kein Schnitt. Den Schnitt anklicken.</translation>
    </message>
    <message>
        <source>This is another outline. Esc ends the one that is followed.</source>
        <translation>Das ist ein anderer Umriss. Esc beendet den, dem gefolgt wird.</translation>
    </message>
    <message>
        <source>A curve of the border has no length.</source>
        <translation>Eine Kurve des Randes hat keine Länge.</translation>
    </message>
    <message>
        <source>The curves and edges of the border do not close: %1</source>
        <translation>Die Kurven und Kanten des Randes schließen sich nicht: %1</translation>
    </message>
    <message>
        <source>Choose the curves and edges that bound the patch.</source>
        <translation>Wählen Sie die Kurven und Kanten, die die Freiformfläche begrenzen.</translation>
    </message>
    <message>
        <source>The border crosses itself on the face. Choose other curves, or fewer spans.</source>
        <translation>Der Rand kreuzt sich auf der Fläche selbst. Wählen Sie andere Kurven oder weniger Felder.</translation>
    </message>
    <message>
        <source>A profile that twists has no draft and ends at a level. Leave one of the two out.</source>
        <translation>Ein Profil, das sich verdreht, hat keine Schräge und endet auf einer Höhe. Lassen Sie eines von beiden weg.</translation>
    </message>
    <message>
        <source>A twist is at most 20 turns either way.</source>
        <translation>Eine Verdrehung ist höchstens 20 Umdrehungen in jeder Richtung.</translation>
    </message>
    <message>
        <source>The axis that the profile turns about runs along the sketch's normal; this one leans %1°.</source>
        <translation>Die Achse, um die sich das Profil dreht, läuft entlang der Normalen der Skizze; diese neigt sich um %1°.</translation>
    </message>
    <message>
        <source>The profile crosses itself when it is twisted. Use a smaller twist.</source>
        <translation>Das Profil kreuzt sich selbst, wenn es verdreht wird. Nehmen Sie eine kleinere Verdrehung.</translation>
    </message>
    <message>
        <source>The pitch of %1 is not known.</source>
        <translation>Die Steigung von %1 ist nicht bekannt.</translation>
    </message>
    <message>
        <source>The hole is too short for a thread of %1 mm pitch.</source>
        <translation>Die Bohrung ist zu kurz für ein Gewinde mit %1 mm Steigung.</translation>
    </message>
    <message>
        <source>A hole of %1 mm is no narrower than its thread. Give the tap drill's diameter.</source>
        <translation>Eine Bohrung von %1 mm ist nicht enger als ihr Gewinde. Geben Sie den Kernlochdurchmesser an.</translation>
    </message>
    <message>
        <source>A hole of %1 mm is too narrow for this thread: its turns would meet. Give the tap drill's diameter.</source>
        <translation>Eine Bohrung von %1 mm ist zu eng für dieses Gewinde: seine Gänge würden sich treffen. Geben Sie den Kernlochdurchmesser an.</translation>
    </message>
    <message>
        <source>The thread cannot be modelled with these numbers.</source>
        <translation>Das Gewinde lässt sich mit diesen Zahlen nicht modellieren.</translation>
    </message>
    <message>
        <source>The loft leaves its end section nearly along that section's plane and cannot go on beyond it.</source>
        <translation>Der Loft verlässt seinen Endschnitt fast in dessen Ebene und kann nicht darüber hinausgehen.</translation>
    </message>
    <message>
        <source>A loft goes on by 0 or more before its first section and past its last one.</source>
        <translation>Ein Loft geht um 0 oder mehr vor seinen ersten und hinter seinen letzten Schnitt hinaus.</translation>
    </message>
    <message>
        <source>The border lies %1 mm off the patch: curves or edges have moved since it was fitted. Edit the patch, and it is fitted anew.</source>
        <translation>Der Rand liegt %1 mm neben der Freiformfläche: Kurven oder Kanten haben sich verschoben, seit sie eingepasst wurde. Bearbeiten Sie sie, und sie wird neu eingepasst.</translation>
    </message>
    <message>
        <source>The border lies away from the area. Click more of the scan beside it, or choose other curves.</source>
        <translation>Der Rand liegt abseits des Bereichs. Klicken Sie mehr vom Scan daneben an oder wählen Sie andere Kurven.</translation>
    </message>
    <message>
        <source>The scan is no cloud of points, or was worked on since it was opened. Open its file again to mesh it another way.</source>
        <translation>Der Scan ist keine Punktwolke oder wurde seit dem Öffnen bearbeitet. Öffnen Sie seine Datei neu, um ihn anders zu vernetzen.</translation>
    </message>
    <message>
        <source>The points are read from %1, which is no longer there. Put the file back.</source>
        <translation>Die Punkte werden aus %1 gelesen; diese Datei gibt es nicht mehr. Legen Sie sie zurück.</translation>
    </message>
    <message>
        <source>A line on a known axis leaves nothing to fit.</source>
        <translation>Eine Gerade auf einer bekannten Achse lässt nichts auszugleichen.</translation>
    </message>
    <message>
        <source>no work is called %1</source>
        <translation>keine Arbeit heißt %1</translation>
    </message>
    <message>
        <source>an unknown reason</source>
        <translation>ein unbekannter Grund</translation>
    </message>
    <message>
        <source>read step</source>
        <translation>STEP lesen</translation>
    </message>
    <message>
        <source>read curves</source>
        <translation>Kurven lesen</translation>
    </message>
    <message>
        <source>%1 is damaged: the geometry kernel cannot read it. Export it anew.</source>
        <translation>%1 ist beschädigt: Der Geometriekern kann es nicht lesen. Exportieren Sie es neu.</translation>
    </message>
    <message>
        <source>the bytes end too early</source>
        <translation>die Bytes enden zu früh</translation>
    </message>
    <message>
        <source>%1 could not be computed: %2. Change its values, or what it is made on.</source>
        <translation>%1 konnte nicht berechnet werden: %2. Ändern Sie die Werte oder das, worauf es ruht.</translation>
    </message>
    <message>
        <source>what the geometry kernel made cannot be read</source>
        <translation>was der Geometriekern gemacht hat, ist nicht lesbar</translation>
    </message>
    <message>
        <source>the geometry kernel does not come to an end</source>
        <translation>der Geometriekern kommt zu keinem Ende</translation>
    </message>
    <message>
        <source>its program %1 cannot be started; install Lost Line anew</source>
        <translation>sein Programm %1 lässt sich nicht starten; installieren Sie Lost Line neu</translation>
    </message>
    <message>
        <source>the geometry kernel went down on this shape</source>
        <translation>der Geometriekern ist an dieser Form abgestürzt</translation>
    </message>
    <message>
        <source>a model is not known here</source>
        <translation>ein Modell ist hier nicht bekannt</translation>
    </message>
    <message>
        <source>a body is missing</source>
        <translation>ein Körper fehlt</translation>
    </message>
    <message>
        <source>no such form of a curve</source>
        <translation>keine solche Kurvenform</translation>
    </message>
    <message>
        <source>no kind of step is called %1</source>
        <translation>keine Art von Schritt heißt %1</translation>
    </message>
    <message>
        <source>side by side</source>
        <translation>nebeneinander</translation>
    </message>
    <message>
        <source>The cut through the model</source>
        <translation>Der Schnitt durch das Modell</translation>
    </message>
    <message>
        <source>Face %1 is ambiguous: %2. Pick the one that is meant.</source>
        <translation>Fläche %1 ist mehrdeutig: %2. Wählen Sie die gemeinte.</translation>
    </message>
    <message>
        <source>the faces of a model have not kept their number</source>
        <translation>die Flächen eines Modells haben ihre Zahl nicht behalten</translation>
    </message>
    <message>
        <source>Face %1 is ambiguous: its pieces no longer lie on one surface. Pick the one that is meant.</source>
        <translation>Fläche %1 ist mehrdeutig: Ihre Stücke liegen nicht mehr auf einer Oberfläche. Wählen Sie die gemeinte.</translation>
    </message>
    <message>
        <source>The formula is damaged: it cannot be read.</source>
        <translation>Die Formel ist beschädigt: Sie ist nicht lesbar.</translation>
    </message>
    <message>
        <source>formula; it could not be read</source>
        <translation>Formel; sie war nicht lesbar</translation>
    </message>
    <message>
        <source>formula; it depended on itself</source>
        <translation>Formel; sie hing von sich selbst ab</translation>
    </message>
    <message>
        <source>A formula has no braces: write [name] for another row.</source>
        <translation>Eine Formel hat keine geschweiften Klammern: Schreiben Sie [Name] für eine andere Zeile.</translation>
    </message>
    <message>
        <source>%1 would depend on itself through %2.</source>
        <translation>%1 hinge über %2 von sich selbst ab.</translation>
    </message>
    <message>
        <source>sketch %1 has number %2 twice</source>
        <translation>Skizze %1 hat Nummer %2 zweimal</translation>
    </message>
    <message>
        <source>sketch %1 has no numbers left</source>
        <translation>Skizze %1 hat keine Nummern mehr</translation>
    </message>
    <message>
        <source>Ledger row</source>
        <translation>Zeile des Maßbuchs</translation>
    </message>
    <message>
        <source>there are no numbers left</source>
        <translation>es sind keine Nummern mehr da</translation>
    </message>
    <message>
        <source>the memory does not suffice</source>
        <translation>der Speicher reicht nicht</translation>
    </message>
    <message>
        <source>in its manifest %1</source>
        <translation>im Manifest %1</translation>
    </message>
    <message>
        <source>Cannot save %1</source>
        <translation>%1 lässt sich nicht speichern</translation>
    </message>
    <message>
        <source>Cannot open %1</source>
        <translation>%1 lässt sich nicht öffnen</translation>
    </message>
    <message>
        <source>The edge between %1 and %2 is ambiguous: %3 edges may be meant. Pick the one that is meant.</source>
        <translation>Die Kante zwischen %1 und %2 ist mehrdeutig: %3 Kanten können gemeint sein. Wählen Sie die gemeinte.</translation>
    </message>
</context>
</TS>
