// SPDX-License-Identifier: Apache-2.0
package io.vacancy.diagram;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.diagram.Diagram.Arrow;
import io.vacancy.diagram.Diagram.Box;
import io.vacancy.diagram.Diagram.Look;
import io.vacancy.failure.MisuseException;
import java.awt.geom.Rectangle2D;
import java.io.StringReader;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import javax.xml.parsers.DocumentBuilderFactory;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.w3c.dom.Document;
import org.xml.sax.InputSource;

class DrawingTest {

    private static final String HOSTILE = "<script>alert(\"x\")</script>\u0007 & 'boat' #1";

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5})
    void nothingOverlapsAtThirtyTables(long seed) {
        Layout layout = Layout.of(random(30, new Random(seed)));
        List<Rectangle2D> standing = new ArrayList<>();
        layout.boxes()
                .forEach(box -> standing.add(new Rectangle2D.Double(box.x(), box.y(), box.width(), box.height())));
        layout.arrows()
                .forEach(arrow -> standing.add(new Rectangle2D.Double(
                        arrow.labelX(), arrow.labelY(), arrow.labelWidth(), arrow.labelHeight())));
        Rectangle2D page = new Rectangle2D.Double(0, 0, layout.width(), layout.height());
        for (int i = 0; i < standing.size(); i++) {
            assertThat(page.contains(standing.get(i))).isTrue();
            for (int j = 0; j < i; j++) {
                assertThat(standing.get(i).intersects(standing.get(j)))
                        .as("%s and %s", standing.get(i), standing.get(j))
                        .isFalse();
            }
        }
    }

    @Test
    void drawsTheSamePictureEachTime() {
        String once = Drawing.SVG.of(random(12, new Random(7)));
        String again = Drawing.SVG.of(random(12, new Random(7)));

        assertThat(again).isEqualTo(once);
    }

    @Test
    void whateverNamesHoldStaysText() throws Exception {
        Diagram diagram = new Diagram(
                HOSTILE,
                List.of(HOSTILE),
                List.of(new Box(HOSTILE, List.of(HOSTILE), Look.BLOCKS), new Box("pier", List.of(), Look.PLAIN)),
                List.of(new Arrow("pier", HOSTILE, List.of(HOSTILE), Look.LEAVE)));

        Document svg = parsed(Drawing.SVG.of(diagram));
        assertThat(svg.getElementsByTagName("script").getLength()).isZero();
        assertThat(svg.getElementsByTagName("title").item(0).getTextContent())
                .isEqualTo(HOSTILE.replace('\u0007', ' '));
        assertThat(Drawing.HTML.of(diagram)).doesNotContain("<script").startsWith("<!DOCTYPE html>");
        assertThat(Drawing.MMD.of(diagram)).doesNotContain("<script").contains("#lt;script#gt;alert(#quot;x#quot;)");
    }

    @Test
    void eachLookHasALineAndAnEndOfItsOwn() throws Exception {
        List<Box> boxes = List.of(new Box("boat", List.of(), Look.SELECTED), new Box("fee", List.of(), Look.BLOCKS));
        Set<String> ends = new HashSet<>();
        for (Look look : Look.values()) {
            Diagram one = new Diagram("", List.of(), boxes, List.of(new Arrow("boat", "fee", List.of("rule"), look)));
            Document svg = parsed(Drawing.SVG.of(one));
            ends.add(svg.getElementsByTagName("polyline")
                    .item(0)
                    .getAttributes()
                    .getNamedItem("marker-end")
                    .getNodeValue());
        }

        assertThat(ends).hasSize(Look.values().length);
    }

    @Test
    void needsNothingFromElsewhere() {
        String page = Drawing.HTML.of(random(5, new Random(1)));

        assertThat(page.replace("http://www.w3.org/2000/svg", "")).doesNotContain("http", "src=", "@import");
    }

    @Test
    void aNameThatSaysNothingOfTheFormIsRefused() {
        assertThat(Drawing.named("Boat.SVG")).isEqualTo(Drawing.SVG);
        assertThatThrownBy(() -> Drawing.named("boat.png"))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("boat.png");
    }

    /** Tables that hang on one another, on themselves, and sometimes twice on the same. */
    private static Diagram random(int tables, Random random) {
        List<Box> boxes = new ArrayList<>();
        List<Arrow> arrows = new ArrayList<>();
        Look[] looks = Look.values();
        for (int i = 0; i < tables; i++) {
            boxes.add(new Box("table_number_" + i, List.of(i * 17 + " rows"), looks[random.nextInt(looks.length)]));
            for (int n = random.nextInt(3); n > 0; n--) {
                int parent = random.nextInt(i + 1);
                arrows.add(new Arrow(
                        "table_number_" + parent,
                        "table_number_" + i,
                        List.of("cascade × " + n, "column_" + n + "_id"),
                        looks[random.nextInt(looks.length)]));
            }
        }
        return new Diagram("Tables", List.of("A note."), boxes, arrows);
    }

    private static Document parsed(String svg) throws Exception {
        return DocumentBuilderFactory.newInstance().newDocumentBuilder().parse(new InputSource(new StringReader(svg)));
    }
}
