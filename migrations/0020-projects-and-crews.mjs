/**
 * Who works where and when: crews with their people, projects with their hops, and which crew is at an end on a day;
 * where each end of a hop stands, for lists that are read often; views that somebody keeps; addresses of calendars.
 */
export async function up({ context: sequelize }) {
	const id = 'CHAR(36) CHARACTER SET ascii';
	const table = (name, columns) =>
		sequelize.query(
			`CREATE TABLE IF NOT EXISTS ${name} (${columns}) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`
		);
	await table(
		'crews',
		`id ${id} NOT NULL PRIMARY KEY,
		name VARCHAR(60) NOT NULL,
		region VARCHAR(60) NOT NULL,
		zone VARCHAR(60) NOT NULL,
		from_min SMALLINT NOT NULL,
		to_min SMALLINT NOT NULL,
		base_latitude_deg DECIMAL(9,6) NULL,
		base_longitude_deg DECIMAL(9,6) NULL,
		equipment LONGTEXT NOT NULL CHECK (JSON_VALID(equipment)),
		version INT NOT NULL,
		changed_by ${id} NOT NULL,
		changed_at DATETIME(3) NOT NULL,
		UNIQUE KEY uq_crews_name (name),
		CONSTRAINT fk_crews_user FOREIGN KEY (changed_by) REFERENCES users (id)`
	);
	await table(
		'crew_people',
		`id ${id} NOT NULL PRIMARY KEY,
		crew_id ${id} NOT NULL,
		place SMALLINT NOT NULL,
		name VARCHAR(80) NOT NULL,
		phone VARCHAR(40) NOT NULL,
		user_id ${id} NULL,
		climber TINYINT(1) NOT NULL,
		rigger TINYINT(1) NOT NULL,
		acceptor TINYINT(1) NOT NULL,
		UNIQUE KEY uq_crew_people_user (crew_id, user_id),
		KEY ix_crew_people_user (user_id),
		CONSTRAINT fk_crew_people_crew FOREIGN KEY (crew_id) REFERENCES crews (id) ON DELETE CASCADE,
		CONSTRAINT fk_crew_people_user FOREIGN KEY (user_id) REFERENCES users (id)`
	);
	await table(
		'projects',
		`id ${id} NOT NULL PRIMARY KEY,
		name VARCHAR(80) NOT NULL,
		region VARCHAR(60) NOT NULL,
		due_day CHAR(10) CHARACTER SET ascii NULL,
		note VARCHAR(1000) NOT NULL,
		schedule LONGTEXT NULL CHECK (schedule IS NULL OR JSON_VALID(schedule)),
		version INT NOT NULL,
		changed_by ${id} NOT NULL,
		changed_at DATETIME(3) NOT NULL,
		UNIQUE KEY uq_projects_name (name),
		CONSTRAINT fk_projects_user FOREIGN KEY (changed_by) REFERENCES users (id)`
	);
	await table(
		'project_hops',
		`hop_id ${id} NOT NULL PRIMARY KEY,
		project_id ${id} NOT NULL,
		due_day CHAR(10) CHARACTER SET ascii NULL,
		KEY ix_project_hops_project (project_id),
		CONSTRAINT fk_project_hops_hop FOREIGN KEY (hop_id) REFERENCES hops (id) ON DELETE CASCADE,
		CONSTRAINT fk_project_hops_project FOREIGN KEY (project_id) REFERENCES projects (id) ON DELETE CASCADE`
	);
	await table(
		'assignments',
		`id ${id} NOT NULL PRIMARY KEY,
		hop_id ${id} NOT NULL,
		end CHAR(1) CHARACTER SET ascii NOT NULL,
		crew_id ${id} NOT NULL,
		day CHAR(10) CHARACTER SET ascii NOT NULL,
		from_min SMALLINT NULL,
		note VARCHAR(200) NOT NULL,
		made_by ${id} NOT NULL,
		made_at DATETIME(3) NOT NULL,
		UNIQUE KEY uq_assignments (hop_id, end, day, crew_id),
		KEY ix_assignments_crew (crew_id, day),
		KEY ix_assignments_day (day),
		CONSTRAINT fk_assignments_hop FOREIGN KEY (hop_id) REFERENCES hops (id) ON DELETE CASCADE,
		CONSTRAINT fk_assignments_crew FOREIGN KEY (crew_id) REFERENCES crews (id),
		CONSTRAINT fk_assignments_user FOREIGN KEY (made_by) REFERENCES users (id)`
	);
	const end = (letter) => `stage_${letter} VARCHAR(12) CHARACTER SET ascii NOT NULL,
		state_${letter} VARCHAR(12) CHARACTER SET ascii NOT NULL,
		note_${letter} VARCHAR(300) NOT NULL,
		waits_${letter} VARCHAR(12) CHARACTER SET ascii NULL,
		since_${letter} DATETIME(3) NULL`;
	await table(
		'hop_stands',
		`hop_id ${id} NOT NULL PRIMARY KEY,
		last_seq BIGINT NOT NULL,
		revision INT NOT NULL,
		acceptances INT NOT NULL,
		${end('a')},
		${end('b')},
		short_parts SMALLINT NOT NULL,
		CONSTRAINT fk_hop_stands_hop FOREIGN KEY (hop_id) REFERENCES hops (id) ON DELETE CASCADE`
	);
	await table(
		'board_views',
		`id ${id} NOT NULL PRIMARY KEY,
		user_id ${id} NOT NULL,
		name VARCHAR(60) NOT NULL,
		query VARCHAR(600) NOT NULL,
		UNIQUE KEY uq_board_views (user_id, name),
		CONSTRAINT fk_board_views_user FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE CASCADE`
	);
	await table(
		'calendar_addresses',
		`id ${id} NOT NULL PRIMARY KEY,
		user_id ${id} NOT NULL,
		crew_id ${id} NULL,
		token_hash CHAR(64) CHARACTER SET ascii NOT NULL,
		made_at DATETIME(3) NOT NULL,
		used_at DATETIME(3) NULL,
		UNIQUE KEY uq_calendar_addresses (token_hash),
		CONSTRAINT fk_calendar_addresses_user FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE CASCADE,
		CONSTRAINT fk_calendar_addresses_crew FOREIGN KEY (crew_id) REFERENCES crews (id) ON DELETE CASCADE`
	);
}
