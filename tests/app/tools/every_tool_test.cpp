#include <QtTest/QtTest>

#include "app/window_driver.h"
#include "io/level_file.h"
#include "test_program.h"
#include "tools/tool_list.h"

using namespace rubble;
using namespace rubble::app;

/// Loops over the lists of tools and commands, so that what is added to them is tried without anybody
/// thinking of it: in every view, with a real hand, with numbers of all kinds, given up at every point.
class EveryToolTest : public WindowDriver {
    Q_OBJECT

    /// What must hold whatever a hand has done: the level can be saved and is opened as it was, and all of it
    /// can be undone and done again.
    void verify_sound(const char* after) {
        const Level level = session().stored_level();
        const auto read = io::level_from_text(io::text_of(level), "level");
        QVERIFY2(read, after);
        QVERIFY2(*read == level, after);
        int steps = 0;
        for (; !session().documents().undo_text().isEmpty(); ++steps) session().documents().undo();
        const Level first = session().stored_level();
        for (int i = 0; i < steps; ++i) session().documents().redo();
        QVERIFY2(session().stored_level() == level, after);
        for (int i = 0; i < steps; ++i) session().documents().undo();
        QVERIFY2(session().stored_level() == first, after);
        session().select({});
        see();
    }
    /// Waits for the picture; what the check says may come later.
    void see() { QTRY_VERIFY_WITH_TIMEOUT(session().built().version == session().version(), 60000); }
    void take(const ToolEntry& tool) {
        window_->use_tool(QString::fromLatin1(tool.id));
        paint(view()), paint(plan());
    }
    static std::pair<QPoint, QPoint> spots(LevelView& in) {
        const QSize size = in.size();
        return {QPoint(size.width() * 2 / 5, size.height() * 3 / 5),
                QPoint(size.width() * 3 / 5, size.height() / 2)};
    }
    /// A drag and what follows it: lifted, wheeled, turned, clicked.
    void draw_whole(LevelView& in) {
        const auto [from, to] = spots(in);
        drag(in, from, to);
        move_to(in, to - QPoint(0, 40));
        paint(in);
        QWheelEvent wheel(to, in.mapToGlobal(to), {}, {0, 120}, Qt::NoButton, {}, Qt::NoScrollPhase, false);
        QCoreApplication::sendEvent(&in, &wheel);
        in.setFocus();
        QTest::keyClick(&in, Qt::Key_Space);
        paint(in);
        QTest::mouseClick(&in, Qt::LeftButton, {}, to - QPoint(0, 40));
        paint(in);
        QTest::keyClick(&in, Qt::Key_Return);
        paint(in);
    }
    void each_kind_of_view(const std::function<void(LevelView&, const char*)>& with) {
        with(view(), "main");
        window_->show_plan(true);
        const std::pair<Camera::Kind, const char*> kinds[] = {
            {Camera::Kind::above, "plan"}, {Camera::Kind::front, "front"}, {Camera::Kind::right, "side"}};
        for (const auto& [kind, name] : kinds) {
            plan().set_kind(kind);
            plan().frame_all();
            paint(plan());
            with(plan(), name);
        }
    }

    /// Calls `with` for every tool, in a level in which it is of use: those of tiles in a Side level.
    void each_tool(const std::function<void(const ToolEntry&)>& with) {
        for (const Frame frame : {Frame::space, Frame::side}) {
            session().files().start_new(frame);
            see();
            for (const ToolEntry& tool : all_tools()) {
                const auto has = [&](Frame one) {
                    return std::find(tool.frames.begin(), tool.frames.end(), one) != tool.frames.end();
                };
                if (has(frame) && (frame == Frame::space || !has(Frame::space))) with(tool);
            }
        }
    }
    /// Small, so that software paints it fast.
    void be_small() { window_->resize(800, 520), paint(view()); }

private slots:
    void every_tool_draws_in_every_view_data() {
        QTest::addColumn<int>("frame");
        QTest::newRow("space") << int(Frame::space);
        QTest::newRow("side") << int(Frame::side);
        QTest::newRow("plan") << int(Frame::plan);
    }
    void every_tool_draws_in_every_view() {
        QFETCH(int, frame);
        session().files().start_new(Frame(frame));
        be_small();
        for (const ToolEntry& tool : all_tools()) {
            if (std::find(tool.frames.begin(), tool.frames.end(), Frame(frame)) == tool.frames.end())
                continue;
            each_kind_of_view([&](LevelView& in, const char* name) {
                take(tool);
                draw_whole(in);
                const QByteArray what = QStringLiteral("%1 in %2").arg(tool.id, name).toUtf8();
                if (tool.shape && *tool.shape != Shape::outline && *tool.shape != Shape::wall_run &&
                    Frame(frame) == Frame::space) {
                    QVERIFY2(session().selected() && session().selected()->brush(), what);
                    QCOMPARE(selected().shape, *tool.shape); // what was drawn is there
                }
                verify_sound(what);
            });
        }
    }

    void numbers_of_all_kinds_are_typed_into_every_tool() {
        be_small();
        each_tool([&](const ToolEntry& tool) {
            for (const char* number : {"0", "-1", "0.00001", "1000000000", "200", "1/0", "("}) {
                take(tool);
                const auto [from, to] = spots(view());
                drag(view(), from, to);
                view().setFocus();
                QTest::keyClicks(&view(), number);
                paint(view());
                QTest::keyClick(&view(), Qt::Key_Return);
                paint(view());
                take(all_tools().front());
                const auto read = io::level_from_text(io::text_of(session().stored_level()), "level");
                QVERIFY2(read, qPrintable(QStringLiteral("%1 typed into %2").arg(number, tool.id)));
                while (!session().documents().undo_text().isEmpty()) session().documents().undo();
            }
        });
    }

    void nothing_is_drawn_by_a_press_that_does_not_move() {
        be_small();
        each_tool([&](const ToolEntry& tool) {
            each_kind_of_view([&](LevelView& in, const char* name) {
                take(tool);
                const QPoint at = spots(in).first;
                move_to(in, at);
                paint(in);
                QTest::mousePress(&in, Qt::LeftButton, {}, at);
                paint(in);
                QTest::mouseRelease(&in, Qt::LeftButton, {}, at);
                paint(in);
                verify_sound(qPrintable(QStringLiteral("%1 pressed in %2").arg(tool.id, name)));
            });
        });
    }

    void escape_gives_up_at_every_point() {
        be_small();
        each_tool([&](const ToolEntry& tool) {
            for (int stop = 1; stop <= 9; stop += 2) {
                take(tool);
                const Level before = session().stored_level();
                const auto [from, to] = spots(view());
                drag(view(), from, to, {}, [&](int step) {
                    if (step == stop) QTest::keyClick(&view(), Qt::Key_Escape);
                });
                for (int i = 0; i < 4; ++i) QTest::keyClick(&view(), Qt::Key_Escape);
                paint(view());
                while (!session().documents().undo_text().isEmpty()) session().documents().undo();
                QVERIFY2(session().stored_level() == before, tool.id);
            }
        });
    }

    void a_tool_is_taken_from_the_hand_in_the_middle_of_a_drag() {
        be_small();
        each_tool([&](const ToolEntry& tool) {
            take(tool);
            const Level before = session().stored_level();
            const auto [from, to] = spots(view());
            drag(view(), from, to, {}, [&](int step) {
                if (step == 5) take(all_tools().front());
            });
            while (!session().documents().undo_text().isEmpty()) session().documents().undo();
            QVERIFY2(session().stored_level() == before, tool.id);
            QVERIFY2(session().level() == session().stored_level(), tool.id);
        });
    }

    void every_command_runs_with_nothing_and_with_all_selected() {
        be_small();
        // What opens dialogs that wait for an answer is tried elsewhere.
        const std::set<QString> waits{
            "open",         "save",           "save-as",         "export",         "parcel",
            "strew",        "save-version",   "begin",           "begin-from",     "history",
            "underlay",     "quit",           "guide",           "guide-here",     "keys",
            "new",          "bring-sheet",    "grey-sheet",      "new-side",       "new-plan",
            "bring-pieces", "make-assembly",  "derive-assembly", "cast",           "element-kinds",
            "make-piece",   "copy-piece",     "edit-pieces",     "finding-excuse", "material-pictures",
            "settings",     "bring-outlines", "project"};
        for (const auto& command : window_->commands().all()) {
            if (waits.contains(command.id)) continue;
            for (const bool all : {false, true}) {
                session().select({});
                if (all)
                    for (const auto& layer : session().level().layers) {
                        std::vector<ItemId> ids;
                        for (const ItemPtr& item : layer->items) ids.push_back(item->id);
                        session().select(ids);
                    }
                command.action->trigger();
                paint(view()), paint(plan());
                if (view().walking()) QTest::keyClick(&view(), Qt::Key_Escape);
                window_->use_tool("select");
            }
            take_focus();
        }
        window_->show_plan(true);
        verify_sound("all commands");
    }

    void the_guide_opens_in_the_program_and_its_keys_are_the_commands() {
        QFile file(RUBBLE_SOURCE_DIR "/docs/guide.md");
        QVERIFY(file.open(QIODevice::ReadOnly));
        const QString text = QString::fromUtf8(file.readAll());
        std::set<QKeySequence> keys;
        for (const auto& command : window_->commands().all()) keys.insert(command.standard);
        // What stands in bold and reads as a key is one: a letter, a digit, or something with Ctrl or Shift.
        static const QRegularExpression bold(R"(\*\*((?:Ctrl\+|Shift\+)*(?:[A-Z0-9]|Up|Down|Home))\*\*)");
        int found = 0;
        for (auto it = bold.globalMatch(text); it.hasNext(); ++found) {
            const QString key = it.next().captured(1);
            QVERIFY2(keys.contains(QKeySequence(key)), qPrintable(key));
        }
        QVERIFY(found > 40);
        window_->commands().find("guide")->action->trigger();
        auto* guide = window_->findChild<Guide*>();
        QVERIFY(guide && guide->isVisible());
        QVERIFY2(guide->heading_shown().startsWith("Block out"), qPrintable(guide->heading_shown()));
        window_->commands().find("keys")->action->trigger();
        QCOMPARE(guide->heading_shown(), Guide::keys_heading());
        // About the tool in the hand, a field of the facts, a finding.
        const auto about = [&](const char* what) {
            QVERIFY2(guide->open_about(what), what);
            QVERIFY2(guide->isVisible(), what);
            QCoreApplication::processEvents();
            const QString marked =
                guide->findChild<QTextBrowser*>()->extraSelections().at(0).cursor.selectedText();
            for (const QString& word : QString(what).split(' '))
                QVERIFY2(marked.contains(word, Qt::CaseInsensitive), qPrintable(marked));
        };
        for (const char* what : {"Stairs", "Hand off", "walk.lip", "Kinds of elements"}) about(what);
        QVERIFY(!guide->open_about("qqzzqq"));
        guide->close();
        view().setFocus();
        window_->use_tool("stairs");
        key(Qt::Key_F1, Qt::ControlModifier);
        QVERIFY(guide->isVisible());
        guide->close();
    }

    void every_command_stands_in_a_menu_with_its_key() {
        std::set<QAction*> shown;
        const std::function<void(QMenu*)> look = [&](QMenu* menu) {
            for (QAction* action : menu->actions()) {
                shown.insert(action);
                if (action->menu()) look(action->menu());
            }
        };
        for (QAction* action : window_->menuBar()->actions()) look(action->menu());
        std::map<QKeySequence, QString> keys;
        for (const auto& command : window_->commands().all()) {
            QVERIFY2(shown.contains(command.action), qPrintable(command.id));
            if (command.standard.isEmpty()) continue;
            QVERIFY2(!keys.contains(command.standard),
                     qPrintable(command.id + " and " + keys[command.standard]));
            keys[command.standard] = command.id;
        }
        // Scripts rely on these.
        for (const auto& [id, key] : {std::pair{"box", Qt::Key_B},
                                      {"ramp", Qt::Key_T},
                                      {"stairs", Qt::Key_I},
                                      {"cylinder", Qt::Key_O},
                                      {"cone", Qt::Key_K},
                                      {"arch", Qt::Key_H},
                                      {"cut", Qt::Key_X}})
            QCOMPARE(keys[QKeySequence(key)], QStringLiteral("tool-") + id);
        for (const auto& [id, key] :
             {std::pair{"curved_stairs", Qt::Key_I}, {"ball", Qt::Key_O}, {"pipe", Qt::Key_K}})
            QCOMPARE(keys[QKeySequence(Qt::SHIFT | key)], QStringLiteral("tool-") + id);
    }
};

RUBBLE_TEST(EveryToolTest)
#include "every_tool_test.moc"
