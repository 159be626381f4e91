/** Relations and previews as diagrams. */
module io.vacancy.diagram {
    requires static transitive org.jspecify;
    requires transitive io.vacancy;
    requires java.xml;
    requires org.eclipse.elk.alg.layered;
    requires org.eclipse.elk.core;
    requires org.eclipse.elk.graph;
    requires org.eclipse.emf.common;

    exports io.vacancy.diagram;
}
