// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import io.vacancy.History;
import io.vacancy.Vacancy;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ReceiptId;
import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.Condition;
import io.vacancy.condition.RelativeTime;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;
import io.vacancy.question.Question;
import io.vacancy.request.Key;
import io.vacancy.request.KeyList;
import io.vacancy.request.Limits;
import io.vacancy.request.Mode;
import io.vacancy.request.NamedDeletion;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.ReplacementStep;
import io.vacancy.request.Request;
import io.vacancy.request.SelectionStep;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Retention;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.rules.TableEntry;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.TableName;
import io.vacancy.spi.Store;
import java.lang.reflect.AnnotatedElement;
import java.lang.reflect.AnnotatedType;
import java.lang.reflect.Constructor;
import java.lang.reflect.Executable;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Method;
import java.lang.reflect.Modifier;
import java.lang.reflect.Proxy;
import java.time.Duration;
import java.time.Instant;
import java.time.Period;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** Null at any public entrance is misuse that is told, and changes nothing. */
class NullArgumentsTest {

    private static final List<String> PACKAGES = List.of(
            "io.vacancy",
            "io.vacancy.access",
            "io.vacancy.archive",
            "io.vacancy.condition",
            "io.vacancy.jdbc",
            "io.vacancy.question",
            "io.vacancy.request",
            "io.vacancy.rules",
            "io.vacancy.schema",
            "io.vacancy.json",
            "io.vacancy.json.saved",
            "io.vacancy.rulebook",
            "io.vacancy.rulebook.sql");

    private final Bench bench = ArchiveTest.bench(Engine.SQLITE);
    private final Map<Class<?>, Object> samples = new HashMap<>();
    private final List<String> wrong = new ArrayList<>();
    private int calls;

    @Test
    void isRefusedByEveryPublicMethodAndConstructor() throws Exception {
        Vacancy vacancy = bench.vacancy();
        samples(vacancy);
        List<Map<String, Object>> before = rows();
        for (Class<?> type : types()) {
            Stream.of(type.getConstructors()).forEach(made -> check(type, null, made));
            for (Method method : type.getMethods()) {
                boolean own = method.getDeclaringClass().getName().startsWith("io.vacancy") && !method.isSynthetic();
                if (own && !(JdbcStore.class == type && implementsPort(method))) {
                    check(type, Modifier.isStatic(method.getModifiers()) ? null : samples.get(type), method);
                }
            }
        }
        assertThat(wrong).isEmpty();
        assertThat(calls).isGreaterThan(200);
        assertThat(rows()).isEqualTo(before);
    }

    /** The store's own methods are called by the core alone. */
    private static boolean implementsPort(Method method) {
        return Arrays.stream(Store.class.getMethods())
                .anyMatch(port -> port.getName().equals(method.getName())
                        && Arrays.equals(port.getParameterTypes(), method.getParameterTypes()));
    }

    private List<Map<String, Object>> rows() {
        try (Stream<Row> boats = bench.vacancy().rows(Request.delete("boat").everyRow())) {
            return boats.map(row -> (Map<String, Object>) row.values()).toList();
        }
    }

    /** What users call; what they implement, and what only Vacancy makes, is none of it. */
    private static List<Class<?>> types() throws ClassNotFoundException {
        TreeSet<String> names = new TreeSet<>();
        for (JavaClass known : new ClassFileImporter()
                .withImportOption(new ImportOption.DoNotIncludeTests())
                .importPackages(PACKAGES)) {
            if (PACKAGES.contains(known.getPackageName())) {
                names.add(known.getName());
            }
        }
        List<Class<?>> types = new ArrayList<>();
        for (String name : names) {
            Class<?> type = Class.forName(name);
            boolean seen = Modifier.isPublic(type.getModifiers())
                    && Stream.<Class<?>>iterate(type, outer -> outer != null, Class::getEnclosingClass)
                            .allMatch(outer -> Modifier.isPublic(outer.getModifiers()));
            if (seen && !type.isEnum() && !type.isAnnotation() && !name.contains("Resolved") && !made(type)) {
                types.add(type);
            }
        }
        return types;
    }

    private static boolean made(Class<?> type) {
        return List.of("Data", "Problem", "SourceLocation", "PersonalColumns", "Assignment", "RelationRules")
                .contains(type.getSimpleName());
    }

    private void check(Class<?> type, @Nullable Object target, Executable called) {
        boolean object = List.of("equals", "compareTo", "valueOf").contains(called.getName());
        if (object
                || (target == null && called instanceof Method method && !Modifier.isStatic(method.getModifiers()))) {
            return;
        }
        Class<?>[] parameters = called.getParameterTypes();
        Object[] ordinary = new Object[parameters.length];
        for (int i = 0; i < parameters.length; i++) {
            ordinary[i] = sample(parameters[i]);
            if (ordinary[i] == null) {
                return;
            }
        }
        for (int i = 0; i < parameters.length; i++) {
            if (!parameters[i].isPrimitive() && !mayBeNull(called, i)) {
                Object[] given = ordinary.clone();
                given[i] = null;
                calls++;
                String told = told(target, called, given);
                if (told != null) {
                    wrong.add(type.getName() + "." + called.getName() + Arrays.toString(parameters) + " at " + i + ": "
                            + told);
                }
            }
        }
    }

    private static @Nullable String told(@Nullable Object target, Executable called, Object[] given) {
        try {
            Object result = called instanceof Method method
                    ? method.invoke(target, given)
                    : ((Constructor<?>) called).newInstance(given);
            return "accepted, returning "
                    + (result == null ? "null" : result.getClass().getSimpleName());
        } catch (InvocationTargetException refused) {
            Throwable cause = refused.getCause();
            return cause instanceof MisuseException ? null : String.valueOf(cause);
        } catch (ReflectiveOperationException | IllegalArgumentException cannot) {
            return String.valueOf(cannot);
        }
    }

    private static boolean mayBeNull(Executable called, int parameter) {
        AnnotatedType type = called.getAnnotatedParameterTypes()[parameter];
        AnnotatedElement named = called.getParameters()[parameter];
        return type.isAnnotationPresent(Nullable.class) || named.isAnnotationPresent(Nullable.class);
    }

    private @Nullable Object sample(Class<?> type) {
        if (samples.containsKey(type)) {
            return samples.get(type);
        }
        if (type.isEnum()) {
            return type.getEnumConstants()[0];
        }
        return type.isInterface() && !type.isSealed()
                ? Proxy.newProxyInstance(type.getClassLoader(), new Class<?>[] {type}, (proxy, method, given) -> null)
                : null;
    }

    private void samples(Vacancy vacancy) {
        Request request = Request.delete("boat").key(1);
        Preview preview = vacancy.preview(request);
        Condition condition = ColumnRef.column("id").equalTo(1);
        for (Object sample : List.of(
                vacancy,
                Vacancy.on(JdbcStore.of(bench.database().source())).actor(() -> "Mira Holm"),
                vacancy.archive(),
                vacancy.history(),
                vacancy.trail(),
                vacancy.outbox(),
                vacancy.tables(),
                preview,
                preview.question(),
                preview.question().answer("no"),
                Request.delete("boat"),
                Request.replace("boat"),
                Request.replace("boat").key(1),
                Request.replace("boat").key(1).with(Map.of()),
                Key.of(1),
                KeyList.of(List.of(1)),
                Limits.NONE,
                ReceiptId.of("r"),
                NamedDeletion.of("old"),
                ColumnRef.column("id"),
                RelativeTime.now(),
                Retention.UNLIMITED,
                Rule.cascade(),
                RuleBook.empty(),
                vacancy.schema(),
                vacancy.schema().table("boat"),
                TableName.of("boat"),
                new Row(TableName.of("boat"), Map.of("id", 1L)),
                ArchiveQuery.all(),
                Duration.ofSeconds(1),
                Period.ofDays(1),
                Instant.EPOCH,
                ZonedDateTime.now(java.time.ZoneOffset.UTC),
                JdbcStore.of(bench.database().source()),
                vacancy.schema().relations().get(0))) {
            samples.put(sample.getClass(), sample);
        }
        samples.put(Request.class, request);
        samples.put(Preview.class, preview);
        samples.put(Condition.class, condition);
        samples.put(Answer.class, preview.question().answer("no"));
        samples.put(Question.class, preview.question());
        samples.put(Mode.class, Mode.ERASE);
        samples.put(OnBlocked.class, OnBlocked.REFUSE);
        samples.put(SelectionStep.class, Request.delete("boat"));
        samples.put(ReplacementStep.class, Request.replace("boat"));
        samples.put(History.class, vacancy.history());
        samples.put(Schema.class, vacancy.schema());
        samples.put(Marker.class, Marker.date("left_on"));
        samples.put(String.class, "boat");
        samples.put(Object.class, 1);
        samples.put(Object[].class, new Object[] {1});
        samples.put(String[].class, new String[] {"boat"});
        samples.put(byte[].class, new byte[16]);
        samples.put(Map.class, Map.of("id", 1));
        samples.put(List.class, List.of());
        samples.put(Collection.class, List.of());
        samples.put(Stream.class, Stream.of(1));
        samples.put(long.class, 1L);
        samples.put(int.class, 1);
        samples.put(double.class, 1.0);
        samples.put(boolean.class, true);
        samples.put(Class.class, Long.class);
        RuleBook.build(book -> book.table("boat", table -> {
            samples.put(TableEntry.class, table);
            return table;
        }));
    }
}
