// SPDX-License-Identifier: Apache-2.0
package io.vacancy.diagram;

import io.vacancy.diagram.Diagram.Arrow;
import io.vacancy.diagram.Diagram.Box;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.eclipse.elk.alg.layered.options.LayeredOptions;
import org.eclipse.elk.core.RecursiveGraphLayoutEngine;
import org.eclipse.elk.core.math.ElkPadding;
import org.eclipse.elk.core.options.CoreOptions;
import org.eclipse.elk.core.options.Direction;
import org.eclipse.elk.core.options.EdgeRouting;
import org.eclipse.elk.core.util.BasicProgressMonitor;
import org.eclipse.elk.graph.ElkEdge;
import org.eclipse.elk.graph.ElkEdgeSection;
import org.eclipse.elk.graph.ElkLabel;
import org.eclipse.elk.graph.ElkNode;
import org.eclipse.elk.graph.util.ElkGraphUtil;
import org.jspecify.annotations.Nullable;

/**
 * Where everything stands, in pixels. The placing is that of the Eclipse Layout Kernel's layered algorithm,
 * tried from left to right and from top to bottom; the one that shows larger on a landscape screen is kept.
 */
record Layout(double width, double height, List<Placed> boxes, List<Drawn> arrows) {

    static final double LINE = 17;
    static final double LABEL_LINE = 14;
    /** The widest advance of a character in common monospaced fonts, by the size of the font. */
    static final double ADVANCE = 0.61;

    static final double NAME_SIZE = 14;
    static final double TEXT_SIZE = 12;
    static final double LABEL_SIZE = 11;

    static final double SIDE = 14;
    private static final double SCREEN_WIDTH = 1240;
    private static final double SCREEN_HEIGHT = 640;

    /** A box and its place. */
    record Placed(Box box, double x, double y, double width, double height) {}

    /** An arrow, its corners, and the place of its label. */
    record Drawn(Arrow arrow, List<Point> way, double labelX, double labelY, double labelWidth, double labelHeight) {}

    record Point(double x, double y) {}

    static Layout of(Diagram diagram) {
        Layout across = of(diagram, Direction.RIGHT);
        Layout down = of(diagram, Direction.DOWN);
        return across.scale() >= down.scale() ? across : down;
    }

    private double scale() {
        return Math.min(SCREEN_WIDTH / width, SCREEN_HEIGHT / height);
    }

    private static Layout of(Diagram diagram, Direction direction) {
        ElkNode graph = ElkGraphUtil.createGraph();
        graph.setProperty(CoreOptions.ALGORITHM, "org.eclipse.elk.layered");
        graph.setProperty(LayeredOptions.DIRECTION, direction);
        graph.setProperty(LayeredOptions.EDGE_ROUTING, EdgeRouting.ORTHOGONAL);
        graph.setProperty(LayeredOptions.ASPECT_RATIO, SCREEN_WIDTH / SCREEN_HEIGHT);
        graph.setProperty(LayeredOptions.PADDING, new ElkPadding(8));
        graph.setProperty(LayeredOptions.SPACING_NODE_NODE, 16.0);
        graph.setProperty(LayeredOptions.SPACING_EDGE_NODE, 14.0);
        graph.setProperty(LayeredOptions.SPACING_EDGE_EDGE, 12.0);
        graph.setProperty(LayeredOptions.SPACING_NODE_NODE_BETWEEN_LAYERS, 28.0);
        graph.setProperty(LayeredOptions.SPACING_EDGE_NODE_BETWEEN_LAYERS, 14.0);
        graph.setProperty(LayeredOptions.SPACING_EDGE_EDGE_BETWEEN_LAYERS, 12.0);
        graph.setProperty(LayeredOptions.SPACING_NODE_SELF_LOOP, 20.0);
        graph.setProperty(LayeredOptions.RANDOM_SEED, 1);
        Map<String, ElkNode> nodes = new HashMap<>();
        diagram.boxes().forEach(box -> nodes.put(box.table(), node(graph, box)));
        List<ElkEdge> edges = diagram.arrows().stream()
                .map(arrow -> edge(arrow, nodes.get(arrow.parent()), nodes.get(arrow.child())))
                .toList();
        new RecursiveGraphLayoutEngine().layout(graph, new BasicProgressMonitor());
        List<Placed> placed = new ArrayList<>();
        for (int i = 0; i < diagram.boxes().size(); i++) {
            ElkNode node = graph.getChildren().get(i);
            placed.add(new Placed(diagram.boxes().get(i), node.getX(), node.getY(), node.getWidth(), node.getHeight()));
        }
        List<Drawn> drawn = new ArrayList<>();
        for (int i = 0; i < edges.size(); i++) {
            drawn.add(drawn(diagram.arrows().get(i), edges.get(i)));
        }
        return new Layout(graph.getWidth(), graph.getHeight(), placed, drawn);
    }

    private static ElkNode node(ElkNode graph, Box box) {
        ElkNode node = ElkGraphUtil.createNode(graph);
        node.setDimensions(width(box), (box.lines().size() + 1) * LINE + SIDE);
        return node;
    }

    private static ElkEdge edge(Arrow arrow, @Nullable ElkNode parent, @Nullable ElkNode child) {
        ElkEdge edge = ElkGraphUtil.createSimpleEdge(parent, child);
        ElkLabel label = ElkGraphUtil.createLabel(String.join("\n", arrow.label()), edge);
        label.setDimensions(width(arrow.label(), LABEL_SIZE) + 6, arrow.label().size() * LABEL_LINE + 4);
        label.setProperty(LayeredOptions.EDGE_LABELS_INLINE, true);
        return edge;
    }

    private static Drawn drawn(Arrow arrow, ElkEdge edge) {
        ElkEdgeSection section = edge.getSections().get(0);
        List<Point> way = new ArrayList<>();
        way.add(new Point(section.getStartX(), section.getStartY()));
        section.getBendPoints().forEach(bend -> way.add(new Point(bend.getX(), bend.getY())));
        way.add(new Point(section.getEndX(), section.getEndY()));
        ElkLabel label = edge.getLabels().get(0);
        return new Drawn(arrow, way, label.getX(), label.getY(), label.getWidth(), label.getHeight());
    }

    private static double width(Box box) {
        double name = box.table().length() * NAME_SIZE * ADVANCE;
        return Math.max(name, width(box.lines(), TEXT_SIZE)) + 2 * SIDE;
    }

    static double width(List<String> lines, double size) {
        return lines.stream().mapToInt(String::length).max().orElse(0) * size * ADVANCE;
    }
}
