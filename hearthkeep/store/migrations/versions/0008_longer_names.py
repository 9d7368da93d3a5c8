"""Names may be longer, as those of the design document may."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

_COLUMNS = (("designs", "name"), ("units", "name"), ("weather_years", "name"), ("summaries", "place"))


def upgrade() -> None:
    for table, column in _COLUMNS:
        op.alter_column(table, column, type_=sa.String(200), existing_type=sa.String(120), existing_nullable=False)


def downgrade() -> None:
    for table, column in _COLUMNS:
        shorter = f"left({column}, 120)"
        op.alter_column(table, column, type_=sa.String(120), existing_nullable=False, postgresql_using=shorter)
