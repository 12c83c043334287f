#include <QtTest/QtTest>

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QRegularExpression>
#include <QScrollArea>
#include <QToolButton>

#include "app/window_driver.h"
#include "core/level_maker.h"
#include "edit/shapes.h"
#include "facts/facts.h"
#include "level/brush_shape.h"
#include "shape_list.h"
#include "test_program.h"
#include "tray/tray.h"

using namespace rubble;
using namespace rubble::app;
using test::LevelMaker;

namespace {

/// What of a panel is cut: fields and buttons beyond its sides or narrower than their words.
QStringList cut_in(QScrollArea& panel) {
    QStringList out;
    const QWidget* page = panel.widget();
    if (!page) return out;
    const int room = panel.viewport()->width();
    for (const QWidget* widget : page->findChildren<QWidget*>()) {
        if (!widget->isVisibleTo(page) || qobject_cast<const QScrollArea*>(widget)) continue;
        const bool shown = qobject_cast<const QLabel*>(widget) ||
                           qobject_cast<const QAbstractButton*>(widget) ||
                           qobject_cast<const QLineEdit*>(widget) || qobject_cast<const QComboBox*>(widget) ||
                           qobject_cast<const QListWidget*>(widget);
        if (!shown ||
            (widget->parentWidget() && qobject_cast<const QAbstractItemView*>(widget->parentWidget())))
            continue;
        const QRect place(widget->mapTo(page, QPoint()), widget->size());
        QString words = widget->accessibleName();
        int needed = 0;
        if (const auto* label = qobject_cast<const QLabel*>(widget)) {
            words = label->text();
            if (words.isEmpty()) continue;
            for (const QString& word : words.split(QRegularExpression("\\s+")))
                needed = std::max(needed, label->wordWrap() ? label->fontMetrics().horizontalAdvance(word)
                                                            : label->sizeHint().width());
        }
        if (const auto* button = qobject_cast<const QAbstractButton*>(widget)) {
            words = button->text();
            const QStringList parts = button->hasHeightForWidth() ? words.split(' ') : QStringList{words};
            for (const QString& part : parts)
                needed = std::max(needed, button->fontMetrics().size(Qt::TextShowMnemonic, part).width() + 4);
        }
        if (place.left() < 0 || place.right() >= room)
            out << QString("“%1” runs from %2 to %3 of %4")
                       .arg(words)
                       .arg(place.left())
                       .arg(place.right())
                       .arg(room);
        else if (widget->width() < needed)
            out << QString("“%1” has %2 of %3").arg(words).arg(widget->width()).arg(needed);
    }
    return out;
}

} // namespace

/// Every page of facts and every tray in a window of 1280 × 800, with the usual text and with text twice as
/// large: nothing is cut at the side.
class FitsTest : public WindowDriver {
    Q_OBJECT

private slots:
    void nothing_is_cut_data() {
        QTest::addColumn<double>("scale");
        QTest::newRow("usual text") << 1.0;
        QTest::newRow("text twice as large") << 2.0;
    }
    void nothing_is_cut() {
        QFETCH(double, scale);
        apply_theme(*qApp, scale);
        window_ = std::make_unique<MainWindow>();
        window_->resize(1280, 800);
        window_->show();
        take_focus();
        LevelMaker maker;
        maker.box({0, 0, -1}, {40, 40, 1});
        std::vector<std::pair<QString, std::vector<ItemId>>> subjects{{"level", {}}};
        double x = -15;
        for (int i = 0; i <= int(rubble::Shape::mass); ++i) {
            const rubble::Shape shape = rubble::Shape(i);
            Brush box;
            box.size = {2, 2, 2};
            Brush brush = edit::with_fitting_values(edit::with_shape(box, shape, Character{}), Character{});
            if (!problem_of(brush).empty()) continue;
            brush.place.at = {x += 2.5, 5, 0};
            subjects.push_back({shape_name(shape), {maker.brush(brush)}});
            if (shape == rubble::Shape::box) {
                brush.shell_m = 0.2, brush.place.at.y = -5;
                subjects.push_back({"shell", {maker.brush(brush)}});
            }
        }
        const ItemId start = maker.start({-15, -15, 0});
        const ItemId goal = maker.goal({15, 15, 0});
        for (const char* kind : {"place", "note"})
            subjects.push_back({kind, {maker.element(kind, {3, -12, 0})}});
        subjects.push_back({"start", {start}}), subjects.push_back({"goal", {goal}});
        subjects.push_back({"two elements", {start, goal}});
        subjects.push_back({"two brushes", {subjects[1].second[0], subjects[3].second[0]}});
        subjects.push_back({"brush and element", {subjects[1].second[0], goal}});
        maker.claim(Claim::Kind::reaches, start, goal);
        Level level = maker.level();
        // Names as long as people give them.
        Item named = *find_item(level, subjects[1].second[0]);
        named.name = "Stack of fish crates under the office window";
        level = edit::with_changed(level, named);
        session().apply(std::move(level), "Test");
        settle();
        for (LevelView* one : {&view(), &plan()}) one->setUpdatesEnabled(false); // only panels are looked at
        QStringList failures;
        QSet<QString> known;
        const auto look = [&](const QString& what) {
            for (int i = 0; i < 4; ++i) QCoreApplication::processEvents();
            for (QScrollArea* panel : window_->findChildren<QScrollArea*>()) {
                if (!panel->isVisible() || !panel->widget()) continue;
                for (const QString& cut : cut_in(*panel))
                    if (!known.contains(cut)) known.insert(cut), failures << what + ": " + cut;
            }
        };
        for (int stage = 0; stage < 6; ++stage) {
            session().go_to(Stage(stage));
            for (const auto& [name, ids] : subjects) {
                session().select(ids);
                look(QString("stage %1, %2").arg(stage + 1).arg(name));
            }
        }
        // What is picked of a body, and what is marked of a mass.
        session().go_to(Stage::block_out);
        session().select(subjects[1].second);
        if (session().body()) {
            for (const Picks& picks : {Picks{{0}, {}, {}}, Picks{{}, {{0, 1}}, {}}, Picks{{}, {}, {0}},
                                       Picks{{0, 1}, {{0, 1}}, {0, 1}}}) {
                session().pick(picks);
                look("picks");
            }
        }
        for (const Claim& claim : session().level().claims) {
            session().go_to(Stage::check);
            window_->findChild<Facts*>()->show_claim(claim.id);
            look("claim");
        }
        window_.reset();
        apply_theme(*qApp);
        QVERIFY2(failures.isEmpty(), qPrintable("\n" + failures.join("\n")));
    }
};

RUBBLE_TEST(FitsTest)
#include "fits_test.moc"
