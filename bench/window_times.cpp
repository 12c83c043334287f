// What somebody waits for in the window: its start, the start of a walk, and a frame's own work. Run a
// release build on an idle machine, with a display or under xvfb-run.

#include <algorithm>
#include <cstdio>
#include <fstream>
#include <sstream>

#include <QApplication>
#include <QElapsedTimer>
#include <QEventLoop>
#include <QPicture>
#include <QTest>
#include <QTimer>
#include <QWheelEvent>
#include <unistd.h>

#include "build/surface_builder.h"
#include "crowd.h"
#include "edit/items.h"
#include "edit/tiles.h"
#include "io/level_file.h"
#include "level/order.h"
#include "measure.h"
#include "scattered_boxes.h"
#include "strewn_boxes.h"
#include "theme.h"
#include "tile_terrain.h"
#include "view/picking.h"
#include "view/surface_format.h"
#include "window/main_window.h"

using namespace rubble;
using namespace rubble::app;

namespace {

/// Milliseconds since the kernel started this process, to a hundredth of a second.
double since_process_start_ms() {
    std::ifstream stat("/proc/self/stat"), uptime("/proc/uptime");
    std::string line;
    std::getline(stat, line);
    std::istringstream fields(line.substr(line.rfind(')') + 2));
    std::string field;
    for (int i = 3; i <= 22; ++i) fields >> field;
    double up = 0;
    uptime >> up;
    return (up - std::stod(field) / double(sysconf(_SC_CLK_TCK))) * 1000;
}

/// Waits until the view has shown a frame for which `holds`.
template <class F> void wait_for_frame(LevelView& view, F holds) {
    QEventLoop loop;
    QObject::connect(&view, &QOpenGLWidget::frameSwapped, &loop, [&] {
        if (holds()) loop.quit();
    });
    QTimer again;
    QObject::connect(&again, &QTimer::timeout, &view, qOverload<>(&QWidget::update));
    again.start(5);
    loop.exec();
}

double median(std::vector<double> values) {
    std::sort(values.begin(), values.end());
    return values[values.size() / 2];
}

/// A frame's own work is what is painted over the level; the rest is handed to the driver as it stands.
void time_frame(LevelView& view) {
    std::vector<double> times;
    QElapsedTimer clock;
    for (int i = 0; i < 50; ++i) {
        QPicture picture;
        QPainter painter(&picture);
        clock.restart();
        view.paint_over(painter);
        times.push_back(double(clock.nsecsElapsed()) / 1e6);
    }
    std::printf("  a frame's own work          %7.2f ms (median of 50)\n", median(times));
}

void time_picking(MainWindow& window, LevelView& view) {
    const Built& built = window.session().built();
    std::vector<double> times;
    QElapsedTimer clock;
    for (int i = 0; i < 400; ++i) {
        const QPointF at(view.width() * (0.2 + 0.6 * (i % 20) / 20),
                         view.height() * (0.2 + 0.6 * (i / 20) / 20));
        clock.restart();
        built.met_by(view.camera().ray(at), 1e6);
        times.push_back(double(clock.nsecsElapsed()) / 1e6);
    }
    std::printf("  picking                     %7.2f ms (median), %.2f at most\n", median(times),
                *std::max_element(times.begin(), times.end()));
}

/// From a brush put elsewhere until all that is drawn of the level is made anew, as the drawing thread does
/// it, and until the window shows it: under a software renderer that is mostly the renderer's own time.
void time_drag(MainWindow& window, LevelView& view) {
    Session& session = window.session();
    const Level before = session.stored_level();
    const std::vector<ItemId> ids{ordered_brushes(before)[ordered_brushes(before).size() / 2].item->id};
    build::SolidBuilder solids;
    build::SurfaceBuilder surfaces;
    SceneMesher mesher;
    const std::vector<bool> hidden = hidden_brushes(before);
    mesher.build(session.project(), surfaces.build(solids.build(before)), hidden);
    std::vector<double> made, seen;
    QElapsedTimer clock;
    for (int i = 1; i <= 20; ++i) {
        clock.restart();
        const Level now = edit::moved(before, ids, {0.25 * i, 0, 0});
        mesher.build(session.project(), surfaces.build(solids.build(now)), hidden_brushes(now));
        cut_outlines(now, hidden);
        made.push_back(double(clock.nsecsElapsed()) / 1e6);
        clock.restart();
        session.preview(now);
        const uint64_t version = session.version();
        wait_for_frame(view, [&] { return session.built().version == version; });
        seen.push_back(double(clock.nsecsElapsed()) / 1e6);
    }
    session.drop_preview();
    std::printf("  a brush dragged: made anew  %7.1f ms, seen %.1f ms (median of 20)\n", median(made),
                median(seen));
}

void time_undo(Session& session) {
    const Level level = session.stored_level();
    const std::vector<OrderedBrush> brushes = ordered_brushes(level);
    for (int i = 0; i < 20; ++i) {
        const std::vector<ItemId> ids{brushes[size_t(i) * 7].item->id};
        session.apply(edit::moved(session.stored_level(), ids, {0, 0.25, 0}), QStringLiteral("Move"));
    }
    std::vector<double> times;
    QElapsedTimer clock;
    for (int i = 0; i < 20; ++i) {
        clock.restart();
        session.documents().undo();
        times.push_back(double(clock.nsecsElapsed()) / 1e6);
    }
    std::printf("  undo                        %7.2f ms (median of 20)\n", median(times));
}

bool time_level(MainWindow& window, const Level& level, const char* what) {
    const std::string file = "/tmp/rubble-window-times.level.json";
    if (!io::save_level(level, file) || !window.open_path(QString::fromStdString(file))) return false;
    LevelView& view = window.space_view();
    std::printf("%s\n", what);
    wait_for_frame(view, [&] { return window.session().built().version == window.session().version(); });
    time_frame(view);
    time_picking(window, view);
    time_drag(window, view);
    time_undo(window.session());
    std::remove(file.c_str());
    return true;
}

/// From a cell painted until the window shows it with what collides and where one gets to, and a frame's own
/// work at several zooms, in a level of 500 x 100 cells of which half are solid.
void time_tiles(MainWindow& window) {
    Level level = bench::level_of(bench::terrain(500, 100));
    Layer play;
    play.id = {"play"};
    play.items.push_back(Item{{"s"}, {}, false, Element{"start", {1, 0, 40}, 0, {}}, {}});
    level.layers.push_back(play);
    const std::string file = "/tmp/rubble-window-tiles.level.json";
    if (!io::save_level(level, file) || !window.open_path(QString::fromStdString(file))) return;
    Session& session = window.session();
    LevelView& view = window.space_view();
    wait_for_frame(view, [&] { return session.up_to_date(); });
    std::printf("500 x 100 tiles\n");
    for (const int notches : {0, 8, 24}) {
        view.frame_all();
        const QPointF middle = view.rect().center();
        for (int i = 0; i < notches; ++i) {
            QWheelEvent turn(middle, view.mapToGlobal(middle), {}, {0, 120}, Qt::NoButton, {},
                             Qt::NoScrollPhase, false);
            QCoreApplication::sendEvent(&view, &turn);
        }
        std::printf("  %2d notches nearer:", notches);
        time_frame(view);
    }
    view.frame_all();
    std::vector<double> seen, tinted, repainted;
    QElapsedTimer clock;
    // What a frame takes in which nothing is otherwise: the graphics driver's own, which is software here.
    for (int i = 0; i < 20; ++i) {
        clock.restart();
        view.update();
        bool painted = false;
        wait_for_frame(view, [&] { return std::exchange(painted, true); });
        repainted.push_back(double(clock.nsecsElapsed()) / 1e6);
    }
    const LayerId layer = session.level().layers[0]->id;
    for (int i = 0; i < 20; ++i) {
        const TileGrid::Change change{{20 + i * 20, 30}, Tile(0)};
        clock.restart();
        session.apply(edit::with_tiles(session.stored_level(), layer, std::span(&change, 1)),
                      QStringLiteral("Paint"));
        bool painted = false;
        wait_for_frame(view, [&] { return std::exchange(painted, true); });
        seen.push_back(double(clock.nsecsElapsed()) / 1e6);
        wait_for_frame(view, [&] { return session.up_to_date(); });
        tinted.push_back(double(clock.nsecsElapsed()) / 1e6);
    }
    std::printf("  a cell painted: seen %.1f ms, checked and tinted %.1f ms; a frame without any change %.1f "
                "ms (medians "
                "of 20)\n",
                median(seen), median(tinted), median(repainted));
    std::remove(file.c_str());
}

/// A level with very many pieces (kit_times makes one): opened, a frame's own work, one more placed.
void time_pieces(MainWindow& window, const char* file) {
    QElapsedTimer clock;
    clock.start();
    if (!window.open_path(QString::fromLocal8Bit(file))) return;
    Session& session = window.session();
    LevelView& view = window.space_view();
    wait_for_frame(view, [&] { return session.built().version == session.version(); });
    std::printf("%s\n  opened and seen             %7.0f ms\n", file, double(clock.nsecsElapsed()) / 1e6);
    wait_for_frame(view, [&] { return session.up_to_date(); });
    std::printf("  checked                     %7.0f ms\n", double(clock.nsecsElapsed()) / 1e6);
    time_frame(view);
    const Item* first = nullptr;
    for_each_item(session.level(), [&](const Item& item, const Layer&) {
        if (item.piece() && !first) first = &item;
    });
    if (!first) return;
    std::vector<double> edited, seen, tinted;
    for (int i = 0; i < 9; ++i) {
        Item one = *first;
        one.id = {"more" + std::to_string(i)};
        std::get<PlacedPiece>(one.body).place.at += Vec3(5 * i, 0, 4);
        clock.restart();
        session.apply(edit::with_item(session.stored_level(), 0, one), QStringLiteral("Place"));
        edited.push_back(double(clock.nsecsElapsed()) / 1e6);
        wait_for_frame(view, [&] { return session.built().version == session.version(); });
        seen.push_back(double(clock.nsecsElapsed()) / 1e6);
        wait_for_frame(view, [&] { return session.up_to_date(); });
        tinted.push_back(double(clock.nsecsElapsed()) / 1e6);
    }
    std::printf("  one placed: edit %.1f ms, seen %.0f ms, checked %.0f ms (medians of 9)\n", median(edited),
                median(seen), median(tinted));
}

/// What the program takes with 20,000 boxes open, drawn and checked.
void show_memory(MainWindow& window) {
    const std::string file = "/tmp/rubble-window-memory.level.json";
    if (!io::save_level(bench::strewn_boxes(20'000), file) || !window.open_path(QString::fromStdString(file)))
        return;
    wait_for_frame(window.space_view(), [&] { return window.session().up_to_date(); });
    std::printf("20,000 brushes drawn and checked: %.0f MB\n", bench::memory_mb());
    std::remove(file.c_str());
}

} // namespace

int main(int argc, char** argv) {
    if (argc != 2 && argc != 3) {
        std::fprintf(stderr, "usage: window_times PROJECT_OR_LEVEL [memory | LEVEL_OF_PIECES]\n");
        return 2;
    }
    use_surface_format();
    QApplication application(argc, argv);
    apply_theme(application);
    MainWindow window;
    if (!window.open_path(QString::fromLocal8Bit(argv[1]))) return 2;
    window.show();
    QApplication::setActiveWindow(&window); // nobody else does under a bare X server
    std::setvbuf(stdout, nullptr, _IOLBF, 0);
    LevelView& view = window.space_view();
    wait_for_frame(view, [&] { return window.session().built().mesh != nullptr; });
    std::printf("window with the level drawn   %7.0f ms after the process starts\n",
                since_process_start_ms());
    wait_for_frame(view, [&] { return window.session().up_to_date(); });
    std::printf("and checked                   %7.0f ms\n", since_process_start_ms());

    QElapsedTimer clock;
    clock.start();
    QTest::keyClick(&view, Qt::Key_G);
    wait_for_frame(view, [&] { return view.walking(); });
    std::printf("walk seen                     %7lld ms after the key\n",
                static_cast<long long>(clock.elapsed()));
    QTest::keyClick(&view, Qt::Key_Escape);

    if (argc == 3 && std::string_view(argv[2]) == "memory") {
        show_memory(window);
        return 0;
    }
    if (argc == 3) {
        time_pieces(window, argv[2]);
        return 0;
    }
    const bool done = time_level(window, bench::scattered_boxes(1000), "1,000 boxes") &&
                      time_level(window, bench::crowd(10'000), "10,000 brushes");
    time_tiles(window);
    return done ? 0 : 2;
}
