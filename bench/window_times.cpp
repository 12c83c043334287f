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
#include <unistd.h>

#include "io/level_file.h"
#include "scattered_boxes.h"
#include "theme.h"
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

} // namespace

int main(int argc, char** argv) {
    if (argc != 2) {
        std::fprintf(stderr, "usage: window_times PROJECT_OR_LEVEL\n");
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

    // A frame's own work is what is painted over the level; the rest is handed to the driver as it stands.
    const std::string file = "/tmp/rubble-window-times.level.json";
    if (!io::save_level(bench::scattered_boxes(1000), file) ||
        !window.open_path(QString::fromStdString(file)))
        return 2;
    wait_for_frame(view, [&] { return window.session().up_to_date(); });
    std::vector<double> times;
    for (int i = 0; i < 50; ++i) {
        QPicture picture;
        QPainter painter(&picture);
        clock.restart();
        view.paint_over(painter);
        times.push_back(double(clock.nsecsElapsed()) / 1e6);
    }
    std::printf("a frame's own work            %7.2f ms for 1,000 brushes (median of 50)\n", median(times));
    std::remove(file.c_str());
    return 0;
}
