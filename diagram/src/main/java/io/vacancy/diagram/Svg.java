// SPDX-License-Identifier: Apache-2.0
package io.vacancy.diagram;

import io.vacancy.diagram.Diagram.Look;
import io.vacancy.diagram.Layout.Drawn;
import io.vacancy.diagram.Layout.Placed;
import io.vacancy.diagram.Layout.Point;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** A laid out diagram as SVG 1.1, which needs nothing from elsewhere. */
final class Svg {

    private static final double TITLE_HEIGHT = 40;
    private static final double LEGEND_HEIGHT = 42;
    private static final double MARGIN = 16;
    private static final double TITLE_SIZE = 17;
    private static final String FONTS = "ui-monospace, Consolas, 'DejaVu Sans Mono', Menlo, monospace";

    private final Diagram diagram;
    private final Layout layout;
    private final Markup markup = new Markup();

    Svg(Diagram diagram, Layout layout) {
        this.diagram = diagram;
        this.layout = layout;
    }

    String written() {
        double notes = diagram.notes().size() * Layout.LINE;
        double width = Math.max(layout.width(), widest()) + 2 * MARGIN;
        double height = TITLE_HEIGHT + layout.height() + LEGEND_HEIGHT + notes + 2 * MARGIN;
        markup.open(
                "svg",
                "xmlns",
                "http://www.w3.org/2000/svg",
                "width",
                number(width),
                "height",
                number(height),
                "viewBox",
                "0 0 " + number(width) + " " + number(height),
                "font-family",
                FONTS,
                "role",
                "img");
        markup.element("title", diagram.title());
        markup.element("desc", described());
        markup.element("style", STYLE);
        pattern();
        for (Look look : Look.values()) {
            arrowhead(look);
        }
        markup.empty("rect", "width", "100%", "height", "100%", "fill", "white");
        text(MARGIN, MARGIN + TITLE_SIZE, TITLE_SIZE, diagram.title(), "title");
        markup.open("g", "transform", "translate(" + number(MARGIN) + "," + number(TITLE_HEIGHT + MARGIN) + ")");
        layout.arrows().forEach(this::way);
        layout.boxes().forEach(this::box);
        layout.arrows().forEach(this::label);
        markup.close();
        double y = TITLE_HEIGHT + MARGIN + layout.height() + LEGEND_HEIGHT - 8;
        legend(y);
        y += 8;
        for (String note : diagram.notes()) {
            y += Layout.LINE;
            text(MARGIN, y, Layout.TEXT_SIZE, note, "note");
        }
        return markup.close().toString();
    }

    /** What depends on what, for those who hear the picture rather than see it. */
    private String described() {
        Stream<String> boxes = diagram.boxes().stream()
                .map(box -> box.table() + (box.lines().isEmpty() ? "" : ": " + String.join(", ", box.lines())));
        Stream<String> arrows = diagram.arrows().stream()
                .map(arrow -> arrow.child() + " depends on " + arrow.parent() + ": " + String.join(" ", arrow.label()));
        return Stream.concat(boxes, arrows).collect(Collectors.joining("; "));
    }

    private double widest() {
        double notes = Layout.width(diagram.notes(), Layout.TEXT_SIZE);
        double legend = looks().stream()
                .mapToDouble(look -> look.words().length() * Layout.LABEL_SIZE * Layout.ADVANCE + 62)
                .sum();
        return Math.max(Math.max(notes, legend), Layout.width(List.of(diagram.title()), TITLE_SIZE));
    }

    private static final String STYLE = """
            .box{stroke-width:1.2;fill:#ffffff;stroke:#5c6770}
            .box.goes,.box.selected{stroke:#8c2f1b;fill:#fdf1ec;stroke-width:2}
            .box.selected{stroke-width:3.5}
            .box.set-null,.box.reassign,.box.blank{stroke:#1b5a7d;fill:#eef6fa;stroke-width:1.6;stroke-dasharray:6 3}
            .box.blocks{stroke:#101010;stroke-width:3.5}
            .way{fill:none;stroke-width:1.5;stroke:#5c6770}
            .way.goes,.way.selected{stroke:#8c2f1b;stroke-width:2}
            .way.set-null{stroke:#1b5a7d;stroke-dasharray:2 4}
            .way.reassign{stroke:#1b5a7d;stroke-dasharray:9 3 2 3}
            .way.blank{stroke:#1b5a7d;stroke-dasharray:9 3}
            .way.leave{stroke-dasharray:1 5}
            .way.blocks{stroke:#101010;stroke-width:3.5}
            .name{font-weight:bold;fill:#16212b}.line{fill:#2a343d}.blocks-line{font-weight:bold;fill:#101010}
            .label{fill:#2a343d}.label.first{font-weight:bold}.title{font-weight:bold;fill:#16212b}.note{fill:#2a343d}
            """;

    /** Stripes, which stand out on a screen without colours and on paper. */
    private void pattern() {
        markup.open("defs");
        markup.open(
                "pattern",
                "id",
                "stripes",
                "width",
                8,
                "height",
                8,
                "patternUnits",
                "userSpaceOnUse",
                "patternTransform",
                "rotate(45)");
        markup.empty("rect", "width", 8, "height", 8, "fill", "#fff4cf");
        markup.empty("rect", "width", 3, "height", 8, "fill", "#ecc94b");
        markup.close().close();
    }

    private static String name(Look look) {
        return look.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /**
     * A cross where nothing gets through, an open square where a link is lost, a small filled one where all stays, else a
     * point: none of them says how many rows there are on either side, as the ends of entity diagrams do.
     */
    private void arrowhead(Look look) {
        String colour = look == Look.BLOCKS
                ? "#101010"
                : look == Look.GOES || look == Look.SELECTED
                        ? "#8c2f1b"
                        : look == Look.SET_NULL || look == Look.REASSIGN || look == Look.BLANK ? "#1b5a7d" : "#5c6770";
        markup.open(
                "marker",
                "id",
                "end-" + name(look),
                "markerUnits",
                "userSpaceOnUse",
                "markerWidth",
                16,
                "markerHeight",
                20,
                "refX",
                look == Look.BLOCKS ? 13 : 10,
                "refY",
                10,
                "orient",
                "auto");
        switch (look) {
            case BLOCKS ->
                markup.empty(
                        "path", "d", "M1,3 L11,17 M11,3 L1,17", "stroke", colour, "stroke-width", 3.5, "fill", "none");
            case SET_NULL ->
                markup.empty(
                        "rect",
                        "x",
                        1,
                        "y",
                        6,
                        "width",
                        8,
                        "height",
                        8,
                        "fill",
                        "white",
                        "stroke",
                        colour,
                        "stroke-width",
                        1.5);
            case LEAVE -> markup.empty("rect", "x", 4, "y", 7, "width", 6, "height", 6, "fill", colour);
            default -> markup.empty("path", "d", "M0,5 L10,10 L0,15 z", "fill", colour);
        }
        markup.close();
    }

    private void way(Drawn drawn) {
        String points = drawn.way().stream()
                .map(point -> number(point.x()) + "," + number(point.y()))
                .collect(Collectors.joining(" "));
        String look = name(drawn.arrow().look());
        markup.empty("polyline", "class", "way " + look, "points", points, "marker-end", "url(#end-" + look + ")");
    }

    private void label(Drawn drawn) {
        double x = drawn.labelX();
        double y = drawn.labelY();
        rectangle(x, y, drawn.labelWidth(), drawn.labelHeight(), "fill", "white");
        double line = y;
        String style = "label first";
        for (String text : drawn.arrow().label()) {
            line += Layout.LABEL_LINE;
            text(x + 3, line - 1, Layout.LABEL_SIZE, text, style);
            style = "label";
        }
    }

    private void box(Placed placed) {
        String look = name(placed.box().look());
        double x = placed.x();
        double y = placed.y();
        markup.open("g", "id", Page.anchor(placed.box().table()));
        rectangle(x, y, placed.width(), placed.height(), "class", "box " + look, "rx", 3);
        if (placed.box().look() == Look.BLOCKS) {
            rectangle(x + 4, y + 4, placed.width() - 8, placed.height() - 8, "fill", "url(#stripes)");
            rectangle(x + 8, y + 6, placed.width() - 16, placed.height() - 12, "fill", "white", "fill-opacity", 0.85);
        }
        double line = y + Layout.LINE + 3;
        text(x + Layout.SIDE, line, Layout.NAME_SIZE, placed.box().table(), "name");
        for (String text : placed.box().lines()) {
            line += Layout.LINE;
            text(x + Layout.SIDE, line, Layout.TEXT_SIZE, text, text.startsWith("!") ? "blocks-line" : "line");
        }
        markup.close();
    }

    private Set<Look> looks() {
        Set<Look> looks = EnumSet.noneOf(Look.class);
        diagram.arrows().forEach(arrow -> looks.add(arrow.look()));
        return looks;
    }

    /** Only what the picture shows, as an arrow with its end. */
    private void legend(double y) {
        double x = MARGIN;
        for (Look look : looks()) {
            Drawn sample = new Drawn(
                    new Diagram.Arrow("", "", List.of(), look),
                    List.of(new Point(x, y - 4), new Point(x + 34, y - 4)),
                    0,
                    0,
                    0,
                    0);
            way(sample);
            text(x + 40, y, Layout.LABEL_SIZE, look.words(), "label");
            x += look.words().length() * Layout.LABEL_SIZE * Layout.ADVANCE + 62;
        }
    }

    private void rectangle(double x, double y, double width, double height, Object... more) {
        Object[] place = {"x", number(x), "y", number(y), "width", number(width), "height", number(height)};
        markup.empty("rect", Stream.concat(Stream.of(place), Stream.of(more)).toArray());
    }

    private void text(double x, double y, double size, String text, String style) {
        markup.element("text", text, "x", number(x), "y", number(y), "font-size", number(size), "class", style);
    }

    private static String number(double value) {
        return value == Math.rint(value) ? Long.toString((long) value) : String.format(Locale.ROOT, "%.1f", value);
    }
}
