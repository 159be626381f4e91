package io.vacancy;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

@AnalyzeClasses(packages = "io.vacancy", importOptions = DoNotIncludeTests.class)
class CoreRoomTest {

    @ArchTest
    static final ArchRule knowsNoDatabaseTextFormatOrInterface = noClasses()
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage(
                    "java.sql..",
                    "javax.sql..",
                    "com.fasterxml..",
                    "org.yaml..",
                    "net.sf.jsqlparser..",
                    "picocli..",
                    "java.net.http..",
                    "com.sun.net..");

    @ArchTest
    static final ArchRule packagesDependOneWayOnly =
            slices().matching("io.vacancy.(*)..").should().beFreeOfCycles();
}
