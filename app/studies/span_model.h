#pragma once

#include <QAbstractTableModel>
#include <QSortFilterProxyModel>

#include "check/span_facts.h"
#include "session/session.h"

namespace rubble::app {

/// The spans of a check as rows. Sorting goes by numbers (Qt::UserRole).
class SpanModel : public QAbstractTableModel {
    Q_OBJECT
public:
    enum Column {
        grade,
        kind,
        where,
        gap,
        rise,
        margin,
        press,
        turn,
        run_up,
        landing,
        clearance,
        seen,
        miss,
        columns
    };
    struct Row {
        check::Span span;
        std::optional<check::SpanFacts> facts; ///< none yet
        QString where;                         ///< from what to what
        ItemId from, to;                       ///< what it leaves and lands on; empty where that is no item
        bool on_route = false, one_way = false;
    };

    using QAbstractTableModel::QAbstractTableModel;
    void set_rows(std::vector<Row> rows);
    void set_facts(int row, const check::SpanFacts& facts);
    const std::vector<Row>& rows() const { return rows_; }

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

private:
    std::vector<Row> rows_;
};

/// Those rows that are asked for.
class SpanFilter : public QSortFilterProxyModel {
    Q_OBJECT
public:
    struct Wanted {
        int grade = -1; ///< any
        bool on_route = false, one_way = false, deadly = false;
    };
    using QSortFilterProxyModel::QSortFilterProxyModel;
    void set_wanted(const Wanted& wanted) { wanted_ = wanted, invalidateFilter(); }

protected:
    bool filterAcceptsRow(int row, const QModelIndex& parent) const override;

private:
    Wanted wanted_;
};

/// The rows of a check.
std::vector<SpanModel::Row> span_rows(const check::CheckResult& result, const Level& level);

} // namespace rubble::app
