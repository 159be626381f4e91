// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples.office;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import com.deque.html.axecore.playwright.AxeBuilder;
import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.PlaywrightException;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.WaitForSelectorState;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.eclipse.jetty.server.Server;
import org.eclipse.jetty.server.ServerConnector;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The office in a real browser, with the mouse, the keyboard, on a phone, in the dark, and without scripts. */
class BrowserTest {

    private static Path chromium;
    private static Playwright playwright;
    private static Browser browser;

    @TempDir
    Path folder;

    private Server server;
    private String base;
    private BrowserContext context;
    private Page page;

    @BeforeAll
    static void starts() {
        chromium = Stream.of("/usr/bin/chromium", "/usr/bin/chromium-browser", "/snap/bin/chromium")
                .map(Path::of)
                .filter(Files::isExecutable)
                .findFirst()
                .orElse(null);
        assumeTrue(chromium != null, "skipped: no Chromium here; apt-get install chromium brings one");
        playwright = Playwright.create(
                new Playwright.CreateOptions().setEnv(Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1")));
        browser = launched();
    }

    /** The second argument: containers often give little shared memory, for lack of which a browser ends. */
    private static Browser launched() {
        return playwright
                .chromium()
                .launch(new BrowserType.LaunchOptions()
                        .setExecutablePath(chromium)
                        .setArgs(List.of("--no-sandbox", "--disable-dev-shm-usage")));
    }

    @AfterAll
    static void ends() {
        if (playwright != null) {
            playwright.close();
        }
    }

    @BeforeEach
    void opens() throws Exception {
        if (!browser.isConnected()) {
            browser = launched();
        }
        server = OfficeApplication.started(folder.resolve("office.db"), 0);
        base = "http://localhost:" + ((ServerConnector) server.getConnectors()[0]).getLocalPort();
        page = visitor(new Browser.NewContextOptions());
    }

    @AfterEach
    void closes() throws Exception {
        try {
            if (context != null) {
                context.close();
            }
        } catch (PlaywrightException ignored) {
            // A browser that ended took its contexts along: what the test saw before is what counts.
        } finally {
            server.stop();
        }
    }

    /** Without the script that asks in a dialog. */
    private Page visitor(Browser.NewContextOptions options) {
        return visitor(options, false);
    }

    private Page visitor(Browser.NewContextOptions options, boolean dialogs) {
        if (context != null) {
            context.close();
        }
        context = browser.newContext(options.setLocale("en-GB"));
        if (!dialogs) {
            context.route("**/pages.js", Route::abort);
        }
        Page opened = context.newPage();
        opened.setDefaultTimeout(10_000);
        opened.navigate(base + "/boats");
        return opened;
    }

    private long boats() throws Exception {
        try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("office.db"));
                Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery("SELECT COUNT(*) FROM boat")) {
            rows.next();
            return rows.getLong(1);
        }
    }

    private void run(String sql) throws Exception {
        try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("office.db"));
                Statement statement = connection.createStatement()) {
            statement.executeUpdate(sql);
        }
    }

    private static String heading(Page page) {
        return page.locator("h1").innerText();
    }

    private static void tick(Page page, String... names) {
        for (String name : names) {
            page.getByLabel(name, new Page.GetByLabelOptions().setExact(true)).check();
        }
    }

    private static void deleteTicked(Page page) {
        page.locator("text=Delete the ticked ones").click();
    }

    private static void accessible(Page page) {
        assertThat(new AxeBuilder(page).analyze().getViolations())
                .as(page.url())
                .extracting(rule -> rule.getId() + ": " + rule.getNodes().get(0).getHtml())
                .isEmpty();
    }

    @Test
    void fromTheListToTheRestoredBoat() throws Exception {
        long boats = boats();
        accessible(page);
        tick(page, "Teal");
        deleteTicked(page);
        assertThat(heading(page)).isEqualTo("Please confirm");
        accessible(page);
        assertThat(boats()).isEqualTo(boats);
        page.locator("button.yes").click();
        assertThat(heading(page)).isEqualTo("Deleted");
        accessible(page);
        assertThat(boats()).isEqualTo(boats - 1);
        page.locator("text=Back to the list").click();
        assertThat(page.locator("tbody").innerText()).doesNotContain("Teal");

        page.navigate(base + "/archive");
        accessible(page);
        page.locator("text=Restore …").click();
        page.locator("button.yes").click();
        assertThat(heading(page)).isEqualTo("Restored");
        assertThat(boats()).isEqualTo(boats);
        page.navigate(base + "/history");
        accessible(page);
        assertThat(page.locator("tbody tr").count()).isEqualTo(2);
    }

    @Test
    void noLeadsBackToTheListAndChangesNothing() throws Exception {
        long boats = boats();
        page.navigate(base + "/boats?search=ea");
        tick(page, "Teal");
        deleteTicked(page);
        page.locator("button.no").click();
        assertThat(page.url()).contains("/boats?search=ea");
        assertThat(boats()).isEqualTo(boats);
    }

    @Test
    void whatBlocksIsShownWithAWayOut() throws Exception {
        long boats = boats();
        tick(page, "Teal", "Curlew");
        deleteTicked(page);
        assertThat(heading(page)).isEqualTo("This cannot be deleted yet");
        accessible(page);
        page.locator("text=Leave those out").click();
        assertThat(heading(page)).isEqualTo("Please confirm");
        page.locator("button.yes").click();
        assertThat(boats()).isEqualTo(boats - 1);
    }

    @Test
    void aStaleQuestionIsAskedAnew() throws Exception {
        long boats = boats();
        tick(page, "Teal");
        deleteTicked(page);
        run("UPDATE boat SET name = 'Teal II' WHERE id = 12");
        page.locator("button.yes").click();
        assertThat(page.locator("main").innerText()).contains("Please look again", "Teal II");
        assertThat(boats()).isEqualTo(boats);
        page.locator("button.yes").click();
        assertThat(boats()).isEqualTo(boats - 1);
    }

    @Test
    void twoTabsAndTheBackButtonDeleteOnce() throws Exception {
        long boats = boats();
        tick(page, "Teal");
        deleteTicked(page);
        Page second = context.newPage();
        second.navigate(page.url());
        page.locator("button.yes").click();
        second.locator("button.yes").click();
        assertThat(heading(page)).isEqualTo("Deleted");
        assertThat(heading(second)).isEqualTo("Deleted");
        assertThat(boats()).isEqualTo(boats - 1);
        page.goBack();
        page.reload();
        assertThat(heading(page)).isEqualTo("Deleted");
        assertThat(boats()).isEqualTo(boats - 1);
    }

    @Test
    void somebodyElseDoesNotFindTheQuestion() {
        tick(page, "Teal");
        deleteTicked(page);
        String question = page.url();
        page.navigate(base + "/boats");
        page.locator("#visitor").selectOption("JONAS");
        page.locator("text=Change").click();
        page.navigate(question);
        assertThat(heading(page)).isEqualTo("There is no such page");
    }

    @Test
    void theKeyboardIsEnough() throws Exception {
        long boats = boats();
        page.getByLabel("Teal", new Page.GetByLabelOptions().setExact(true)).focus();
        page.keyboard().press("Space");
        for (int i = 0; i < 30 && !focused(page).contains("Delete the ticked"); i++) {
            page.keyboard().press("Tab");
        }
        page.keyboard().press("Enter");
        page.waitForURL("**/deletions/**");
        for (int i = 0; i < 20 && !focused(page).startsWith("Erase boat"); i++) {
            page.keyboard().press("Tab");
        }
        page.keyboard().press("Enter");
        page.locator("text=What was done").waitFor();
        assertThat(boats()).isEqualTo(boats - 1);
    }

    private static String focused(Page page) {
        return String.valueOf(page.evaluate("document.activeElement.innerText"));
    }

    @Test
    void onAPhoneInTheDarkAndWithoutScripts() throws Exception {
        page = visitor(new Browser.NewContextOptions().setViewportSize(390, 800).setColorScheme(ColorScheme.DARK));
        tick(page, "Teal");
        deleteTicked(page);
        accessible(page);
        assertThat(page.evaluate("document.documentElement.scrollWidth <= window.innerWidth"))
                .isEqualTo(true);

        page = visitor(new Browser.NewContextOptions().setJavaScriptEnabled(false));
        long boats = boats();
        tick(page, "Teal");
        deleteTicked(page);
        page.locator("button.yes").click();
        assertThat(heading(page)).isEqualTo("Deleted");
        assertThat(boats()).isEqualTo(boats - 1);
    }

    @Test
    void withScriptsADialogAsksAndTheListIsRefreshedInPlace() throws Exception {
        page = visitor(new Browser.NewContextOptions(), true);
        long boats = boats();
        String address = page.url();
        tick(page, "Teal");
        deleteTicked(page);
        Locator dialog = page.locator("dialog.asking");
        assertThat(dialog.locator("h1").innerText()).isEqualTo("Please confirm");
        assertThat(page.url()).isEqualTo(address);
        accessible(page);
        dialog.locator("button.no").click();
        dialog.waitFor(new Locator.WaitForOptions().setState(WaitForSelectorState.HIDDEN));
        assertThat(boats()).isEqualTo(boats);

        page.locator("tr", new Page.LocatorOptions().setHasText("Teal"))
                .locator("summary")
                .click();
        page.locator("tr", new Page.LocatorOptions().setHasText("Teal"))
                .locator("button.yes")
                .click();
        dialog.locator("summary", new Locator.LocatorOptions().setHasText("As a diagram"))
                .click();
        assertThat(dialog.locator(".diagram img").evaluate("image => image.decode().then(() => image.naturalWidth)"))
                .isNotEqualTo(0);
        dialog.locator("button.yes").click();
        dialog.locator("text=What was done").waitFor();
        assertThat(boats()).isEqualTo(boats - 1);
        dialog.locator("a.back").click();
        page.locator("td", new Page.LocatorOptions().setHasText("Teal"))
                .waitFor(new Locator.WaitForOptions().setState(WaitForSelectorState.DETACHED));
        assertThat(page.url()).isEqualTo(address);
    }
}
