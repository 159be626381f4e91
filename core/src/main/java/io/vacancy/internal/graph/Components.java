// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.graph;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.PriorityQueue;
import java.util.Set;
import java.util.function.Function;

/**
 * Strongly connected components in topological order: Tarjan (1972) for the components, Kahn (1962) for
 * the order, with the caller's comparator wherever the edges leave a choice, so that the same graph
 * always gives the same order.
 */
public final class Components<N> {

    private final Function<N, Collection<N>> successors;
    private final Comparator<N> order;
    private final Map<N, Integer> index = new HashMap<>();
    private final Map<N, Integer> low = new HashMap<>();
    private final Deque<N> open = new ArrayDeque<>();
    private final Map<N, List<N>> componentOf = new HashMap<>();
    private final List<List<N>> components = new ArrayList<>();

    private Components(Function<N, Collection<N>> successors, Comparator<N> order) {
        this.successors = successors;
        this.order = order;
    }

    /** The components of the graph over these nodes; edges to other nodes are not followed. */
    public static <N> List<List<N>> of(
            Collection<N> nodes, Function<N, Collection<N>> successors, Comparator<N> order) {
        Set<N> known = new HashSet<>(nodes);
        Components<N> graph = new Components<>(
                node -> successors.apply(node).stream().filter(known::contains).toList(), order);
        nodes.stream()
                .sorted(order)
                .filter(node -> !graph.index.containsKey(node))
                .forEach(graph::visit);
        return graph.sorted();
    }

    /** Tarjan's walk with a stack of its own, since a chain of tables may be longer than a thread's stack. */
    private void visit(N start) {
        record Frame<N>(N node, Deque<N> next) {}
        Deque<Frame<N>> frames = new ArrayDeque<>();
        frames.push(new Frame<>(start, enter(start)));
        while (!frames.isEmpty()) {
            Frame<N> frame = frames.peek();
            N next = frame.next().poll();
            if (next == null) {
                frames.pop();
                close(frame.node());
                if (!frames.isEmpty()) {
                    lower(frames.peek().node(), lowOf(frame.node()));
                }
            } else if (!index.containsKey(next)) {
                frames.push(new Frame<>(next, enter(next)));
            } else if (!componentOf.containsKey(next)) {
                lower(frame.node(), index.getOrDefault(next, 0));
            }
        }
    }

    private Deque<N> enter(N node) {
        low.put(node, index.size());
        index.put(node, index.size());
        open.push(node);
        return new ArrayDeque<>(successors.apply(node).stream().sorted(order).toList());
    }

    private int lowOf(N node) {
        return low.getOrDefault(node, 0);
    }

    private void lower(N node, int to) {
        low.merge(node, to, Math::min);
    }

    private void close(N node) {
        if (lowOf(node) != index.getOrDefault(node, 0)) {
            return;
        }
        List<N> component = new ArrayList<>();
        N member;
        do {
            member = open.pop();
            component.add(member);
            componentOf.put(member, component);
        } while (!member.equals(node));
        component.sort(order);
        components.add(component);
    }

    private List<List<N>> sorted() {
        Map<N, Integer> waiting = new HashMap<>();
        Map<N, Set<N>> after = new HashMap<>();
        for (List<N> component : components) {
            N head = component.get(0);
            waiting.putIfAbsent(head, 0);
            Set<N> heads = new HashSet<>();
            for (N node : component) {
                successors.apply(node).forEach(next -> heads.add(head(next)));
            }
            heads.remove(head);
            after.put(head, heads);
            heads.forEach(next -> waiting.merge(next, 1, Integer::sum));
        }
        PriorityQueue<N> ready = new PriorityQueue<>(order);
        waiting.forEach((head, count) -> {
            if (count == 0) {
                ready.add(head);
            }
        });
        List<List<N>> result = new ArrayList<>();
        for (N head = ready.poll(); head != null; head = ready.poll()) {
            result.add(componentOf.getOrDefault(head, List.of()));
            for (N next : after.getOrDefault(head, Set.of())) {
                if (waiting.merge(next, -1, Integer::sum) == 0) {
                    ready.add(next);
                }
            }
        }
        return result;
    }

    private N head(N node) {
        return componentOf.getOrDefault(node, List.of(node)).get(0);
    }
}
