"""What a person is told: findings, schools, what helps, which size; it knows no model."""
