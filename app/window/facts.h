#pragma once

#include <functional>

#include <QLabel>
#include <QScrollArea>
#include <QVBoxLayout>

#include "session.h"

namespace rubble::app {

/// What the selection is, in numbers one can change, each beside what it means for the character.
class Facts : public QScrollArea {
    Q_OBJECT
public:
    explicit Facts(Session& session, QWidget* parent = nullptr);

    /// A claim whose verdict is to be told; empty for none.
    void show_claim(const ClaimId& id);

signals:
    void watchWanted(const rubble::check::Witness& witness, const QString& title);

private:
    void rebuild();
    void refresh();
    void add_heading(const QString& text);
    QLabel* add_text(const QString& text, const char* role = "faint");
    void add_number(const QString& name, double step, std::function<double()> value,
                    std::function<void(double)> change, std::function<QString()> meaning = {});
    void build_brush(const ItemId& id);
    void build_element(const ItemId& id);
    void build_many();
    void build_nothing();
    void build_character();
    void build_claim();
    void add_near_miss(const check::NearMiss& miss);
    QString height_meaning(const Brush& brush) const;

    Session& session_;
    QVBoxLayout* column_ = nullptr;
    std::vector<std::function<void()>> refreshers_;
    ClaimId claim_;
};

/// Height against distance of the character's jump, drawn.
class JumpEnvelope : public QWidget {
public:
    explicit JumpEnvelope(Session& session, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {220, 150}; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    Session& session_;
};

} // namespace rubble::app
