#include <QComboBox>
#include <QSpinBox>
#include <QTableWidget>
#include <QToolButton>

#include "app/tiles_driver.h"
#include "casts/cast_dialog.h"
#include "commands/assemblies.h"
#include "commands/casts.h"
#include "edit/assemblies.h"
#include "edit/chance.h"
#include "edit/items.h"
#include "io/cast_file.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::app;

/// Levels put together by chance, and places in them that hold one of several assemblies.
class CastsJourneyTest : public TilesDriver {
    Q_OBJECT

    QString project_;

    /// A copy of the demo project, with an empty level.
    void begin() {
        project_ = folder_.path() + "/project";
        std::error_code error;
        std::filesystem::remove_all(project_.toStdString(), error);
        std::filesystem::copy(RUBBLE_SOURCE_DIR "/demo-data/packing-hall", project_.toStdString(),
                              std::filesystem::copy_options::recursive, error);
        QFile level(project_ + "/levels/empty.level.json");
        QVERIFY(level.open(QIODevice::WriteOnly));
        level.write(R"({"format":1,"name":"Empty","character":"courier",
            "layers":[{"id":"l","name":"Hall","items":[]}],"claims":[]})");
        level.close();
        QVERIFY(session().files().open(level.fileName()));
        take_focus();
        settle();
    }
    static QList<QToolButton*> cards(CastDialog& dialog) {
        QList<QToolButton*> out;
        for (QToolButton* button : dialog.findChildren<QToolButton*>())
            if (button->text().startsWith("Seed")) out << button;
        return out;
    }
    static void set_number(CastDialog& dialog, const char* name, int value) {
        for (QSpinBox* box : dialog.findChildren<QSpinBox*>())
            if (box->accessibleName() == name) box->setValue(value);
    }
    template <class T> int count() {
        int out = 0;
        for_each_item(session().stored_level(),
                      [&](const Item& item, const Layer&) { out += std::holds_alternative<T>(item.body); });
        return out;
    }

private slots:
    void eight_are_cast_and_one_is_taken() {
        begin();
        when_asked<CastDialog>([&](CastDialog& dialog) {
            QTRY_VERIFY_WITH_TIMEOUT(dialog.is_complete(), 60000);
            QCOMPARE(cards(dialog).size(), CastDialog::shown);
            const QString first = cards(dialog)[0]->text();
            // The area is drawn: a row of cells taken away, and with keys one given back.
            auto* area = dialog.findChild<AreaView*>();
            drag_over(*area, area->cell_rect(3, 0).center(), area->cell_rect(3, 6).center());
            QCOMPARE(area->area().rows[2], std::string("###.####"));
            area->setFocus();
            for (int i = 0; i < 3; ++i) QTest::keyClick(area, Qt::Key_Right);
            QTest::keyClick(area, Qt::Key_Space);
            QCOMPARE(area->area().rows[0], std::string("########"));
            set_number(dialog, "Pieces", 18);
            set_number(dialog, "Goal away", 4);
            QTRY_VERIFY_WITH_TIMEOUT(!dialog.is_complete(), 60000);
            QTRY_VERIFY_WITH_TIMEOUT(dialog.is_complete(), 60000);
            QVERIFY(cards(dialog)[0]->text() != first);
            keep_picture_of(dialog, "casts");
            QTest::mouseClick(cards(dialog)[2], Qt::LeftButton);
        });
        QVERIFY(cast_level(session(), *window_));
        settle();
        QCOMPARE(count<PlacedPiece>(), 18);
        QCOMPARE(count<Element>(), 2);
        QCOMPARE(session().selection().size(), size_t(20));
        QCOMPARE(goal_reached(), check::Reached::yes);
        QCOMPARE(session().built().check->claims.at(0).state, check::ClaimState::holds);
        for (const auto& finding : session().built().check->findings)
            QVERIFY2(finding.severity == check::Severity::remark, check::rule_of(finding.rule).key);
        view().frame_all();
        keep_picture("cast-taken");
        // A second one stands beside it, and leaves start and goal as they are.
        when_asked<CastDialog>([&](CastDialog& dialog) {
            QTRY_VERIFY_WITH_TIMEOUT(dialog.is_complete(), 60000);
            QTest::mouseClick(cards(dialog)[0], Qt::LeftButton);
        });
        QVERIFY(cast_level(session(), *window_));
        settle();
        QCOMPARE(count<PlacedPiece>(), 18 + 20);
        QCOMPARE(count<Element>(), 2);
        for (const auto& finding : session().built().check->findings)
            QVERIFY(finding.rule != check::RuleId::pieces_in_one_place);
        undo(), undo();
        QCOMPARE(count<PlacedPiece>(), 0);
    }

    /// Rules are kept by name, and what cannot be is said.
    void rules_are_kept_and_say_why_nothing_is_found() {
        begin();
        when_asked<CastDialog>([&](CastDialog& dialog) {
            QTRY_VERIFY_WITH_TIMEOUT(dialog.is_complete(), 60000);
            auto* known = dialog.findChild<QComboBox*>();
            QVERIFY(known->findText("Cold Store, cast") > 0);
            auto* parts = dialog.findChild<QTableWidget*>();
            for (int row = 0; row < parts->rowCount(); ++row)
                if (parts->item(row, 0)->text() == "Dead end")
                    parts->item(row, 0)->setCheckState(Qt::Unchecked);
            set_number(dialog, "Pieces", 3); // a ring is of four at least
            const auto none = [&] {
                const auto all = cards(dialog);
                return std::all_of(all.begin(), all.end(), [](QToolButton* card) {
                    return !card->isEnabled() && card->text().contains("none");
                });
            };
            QTRY_VERIFY_WITH_TIMEOUT(none(), 60000);
            set_number(dialog, "Pieces", 12);
            known->setEditText("Rings");
            for (auto* button : dialog.findChildren<QPushButton*>())
                if (button->text() == "Keep the rules") QTest::mouseClick(button, Qt::LeftButton);
            dialog.reject();
        });
        QVERIFY(!cast_level(session(), *window_));
        const auto kept = io::load_cast_rules((project_ + "/casts/rings.cast.json").toStdString());
        QVERIFY(kept);
        QCOMPARE(kept->count, 12);
        QCOMPARE(kept->name, std::string("Rings"));
    }

    void a_place_holds_one_of_several() {
        begin();
        draw_box(Qt::Key_B, {0, 0, 0}, {8, 4, 0}, "1");
        make_assembly(session(), *window_, "Deck");
        const ItemId place = session().selection().at(0);
        Assembly low;
        low.file = "assemblies/low.assembly.json", low.name = "Low deck";
        Brush brush;
        brush.size = {8, 4, 0.25};
        low.items = ItemList{ItemPtr(Item{{"b"}, {}, false, brush, {}})};
        session().apply(edit::with_assembly(session().project(), low), "Low deck");
        session().select({place});
        settle();
        auto* more = named<QComboBox>("It may hold");
        QVERIFY(more);
        const int index = more->findText("Low deck");
        QVERIFY(index > 0);
        more->setCurrentIndex(index);
        emit more->activated(index);
        settle();
        const auto placed = [&] { return *find_item(session().level(), place)->assembly(); };
        QCOMPARE(placed().one_of.size(), size_t(2));
        keep_picture("by-chance");
        enter("Low deck", "9");
        QCOMPARE(placed().one_of[1].weight, 9.0);
        // Each walk draws anew; afterwards the level is as it was.
        Level level = session().stored_level();
        level = edit::with_item(level, 0, {{"s"}, {}, false, Element{"start", {1, 1, 1}, 0, {}}, {}});
        session().apply(level, "Start");
        std::set<std::string> drawn;
        for (int i = 0; i < 12 && drawn.size() < 2; ++i) {
            view().setFocus();
            key(Qt::Key_G);
            QVERIFY(view().walking());
            drawn.insert(placed().source);
            key(Qt::Key_Escape);
            settle();
        }
        QCOMPARE(placed().source, std::string("assemblies/deck.assembly.json"));
        QVERIFY(drawn.contains("assemblies/low.assembly.json"));
        make_independent(session());
        QCOMPARE(placed().source, std::string("assemblies/deck--apart.assembly.json"));
    }
};

RUBBLE_TEST(CastsJourneyTest)
#include "casts_journey_test.moc"
