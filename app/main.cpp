#include <algorithm>
#include <clocale>
#include <cstdio>
#include <cstdlib>

#include <QApplication>
#include <QCommandLineParser>
#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QSettings>
#include <QTimer>

#include "settings/preferences.h"
#include "theme.h"
#include "view/surface_format.h"
#include "window/arrangement.h"
#include "window/main_window.h"

using namespace rubble::app;

namespace {

std::optional<Stage> stage_named(const QString& name) {
    const QStringList keys{"metrics", "block-out", "populate", "dress", "check", "hand-off"};
    const int i = int(keys.indexOf(name));
    return i < 0 ? std::nullopt : std::optional(Stage(i));
}

std::optional<ColorChoice> colors_named(const QString& name) {
    const QStringList keys{"desktop", "light", "dark", "contrast"};
    const int i = int(keys.indexOf(name));
    return i < 0 ? std::nullopt : std::optional(ColorChoice(i));
}

/// What is said on the command line alone needs no display.
bool asks_for_text(int argc, char** argv) {
    const QStringList texts{"-h", "--help", "--help-all", "-v", "--version"};
    return std::any_of(argv + 1, argv + argc,
                       [&](const char* word) { return texts.contains(QString::fromLocal8Bit(word)); });
}

/// Qt says in several lines that there is no display, and aborts.
void say_no_display(QtMsgType type, const QMessageLogContext&, const QString&) {
    if (type != QtFatalMsg) return;
    fprintf(stderr, "rubble: no display can be opened. Start it on a desktop, or under xvfb-run.\n");
    std::_Exit(2);
}

/// Whether this display draws what the views need.
bool has_opengl() {
    QOpenGLContext context;
    QOffscreenSurface surface;
    context.setFormat(QSurfaceFormat::defaultFormat());
    if (!context.create()) return false;
    surface.setFormat(context.format());
    surface.create();
    if (!surface.isValid() || !context.makeCurrent(&surface)) return false;
    const QSurfaceFormat format = context.format();
    return std::pair(format.majorVersion(), format.minorVersion()) >= std::pair(3, 3);
}

struct Options {
    QCommandLineOption stage{QStringLiteral("stage"), QObject::tr("The stage to begin in"),
                             QStringLiteral("NAME")};
    QCommandLineOption picture{QStringLiteral("screenshot"),
                               QObject::tr("Write a picture of the window and end"), QStringLiteral("FILE")};
    QCommandLineOption choose{QStringLiteral("select"), QObject::tr("An item or a claim to begin with"),
                              QStringLiteral("ID")};
    QCommandLineOption size{QStringLiteral("size"), QObject::tr("Size of the window"), QStringLiteral("WxH"),
                            QStringLiteral("1280x800")};
    QCommandLineOption run{QStringLiteral("run"),
                           QObject::tr("Commands to begin with, by their names in the settings"),
                           QStringLiteral("ID")};
    QCommandLineOption cutaway{QStringLiteral("cutaway"),
                               QObject::tr("Cut away everything above a height, in metres"),
                               QStringLiteral("Z")};
    QCommandLineOption look{QStringLiteral("look"), QObject::tr("Colours: light, dark or contrast"),
                            QStringLiteral("NAME")};
    QCommandLineOption text{QStringLiteral("text"), QObject::tr("Size of text in percent"),
                            QStringLiteral("PERCENT")};
};

} // namespace

int main(int argc, char** argv) {
    QCoreApplication::setApplicationName(QStringLiteral("Rubble"));
    QCoreApplication::setOrganizationName(QStringLiteral("Rubble"));
    QGuiApplication::setDesktopFileName(QStringLiteral("rubble"));
    QCoreApplication::setApplicationVersion(QStringLiteral(RUBBLE_VERSION));
    const Options options;
    const auto& [stage, picture, choose, size, run, cutaway, look, text] = options;
    QCommandLineParser parser;
    parser.setApplicationDescription(QObject::tr("Blocks out playable levels and proves that they play"));
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument(QStringLiteral("PATH"), QObject::tr("A project folder or a level"));
    parser.addOptions({stage, picture, size, choose, run, cutaway, look, text});
    if (asks_for_text(argc, argv)) {
        QCoreApplication application(argc, argv);
        parser.process(application);
    }

    use_surface_format();
    qInstallMessageHandler(say_no_display);
    QApplication application(argc, argv);
    // Numbers are read and written with a point, whatever the user's language does.
    std::setlocale(LC_NUMERIC, "C");
    parser.process(application);
    const bool drawable = has_opengl();
    qInstallMessageHandler(nullptr);
    if (!drawable) {
        fprintf(stderr, "rubble: this display has no OpenGL 3.3, which the views are drawn with.\n");
        return 2;
    }
    Preferences preferences = parser.isSet(picture) ? Preferences{} : kept_preferences();
    if (parser.isSet(picture)) preferences.colors = ColorChoice::light;
    if (parser.isSet(look) || parser.isSet(text)) {
        const auto wanted = parser.isSet(look) ? colors_named(parser.value(look)) : preferences.colors;
        const double percent = parser.isSet(text) ? parser.value(text).toDouble() : 100;
        if (!wanted || percent < 100 || percent > 300) {
            fprintf(stderr, "--look: one of light, dark, contrast; --text: from 100 to 300 percent\n");
            return 2;
        }
        preferences.colors = *wanted, preferences.text_scale = percent / 100;
    }
    apply_theme(application, preferences.text_scale, scheme_of(preferences.colors));

    MainWindow window;
    window.use(preferences);
    const QStringList pixels = parser.value(size).split('x');
    if (pixels.size() == 2) window.resize(pixels[0].toInt(), pixels[1].toInt());
    if (!parser.positionalArguments().isEmpty() && !window.open_path(parser.positionalArguments().first()))
        return 2;
    if (parser.isSet(stage)) {
        const auto wanted = stage_named(parser.value(stage));
        if (!wanted) {
            fprintf(stderr, "--stage: one of metrics, block-out, populate, dress, check, hand-off\n");
            return 2;
        }
        window.session().go_to(*wanted);
    }
    bool is_height = true;
    const double cut_at = parser.isSet(cutaway) ? parser.value(cutaway).toDouble(&is_height) : 0;
    if (!is_height) {
        fprintf(stderr, "--cutaway: a height in metres, such as 3.5\n");
        return 2;
    }
    for (const QString& id : parser.values(run))
        if (!window.commands().find(id)) {
            fprintf(stderr, "--run: no command is called %s\n", qPrintable(id));
            return 2;
        }
    // A picture shows the usual arrangement, whatever the user's is.
    if (!parser.isSet(picture)) restore_arrangement(window);
    window.show();
    if (!parser.isSet(picture)) window.keep_recovery_copies(Recovery::usual_folder());
    const bool begins = !parser.isSet(picture) && parser.positionalArguments().isEmpty() &&
                        !parser.isSet(stage) && QSettings().value(QStringLiteral("welcome"), true).toBool();
    if (begins) QTimer::singleShot(0, &window, &MainWindow::welcome);
    QTimer::singleShot(0, &window,
                       [&window] { window.space_view().frame_all(), window.plan_view().frame_all(); });
    if (parser.isSet(picture)) {
        // Waits for the check of what is open, then for a frame that shows it.
        auto* wait = new QTimer(&window);
        QObject::connect(wait, &QTimer::timeout, &window, [&, wait] {
            if (!window.session().up_to_date()) return;
            wait->stop();
            if (parser.isSet(choose)) window.choose(parser.value(choose));
            if (parser.isSet(cutaway)) window.set_cutaway(cut_at);
            for (const QString& id : parser.values(run)) window.commands().find(id)->action->trigger();
            // What shows where something is takes a moment and is gone then.
            QTimer::singleShot(parser.isSet(run) ? 1800 : 400, &window, [&] {
                const bool saved = window.picture().save(parser.value(picture));
                QCoreApplication::exit(saved ? 0 : 2);
            });
        });
        wait->start(50);
    }
    return QApplication::exec();
}
