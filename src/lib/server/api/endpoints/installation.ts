import { joi } from '../../schemas/joi';
import { publicKey } from '../../schemas/archive';
import {
	trustInstallation,
	viewInstallation,
	withdrawInstallation
} from '../../services/installation';
import { endpoint } from '../endpoint';

export const installationEndpoints = [
	endpoint({
		method: 'GET',
		path: '/installation',
		tag: 'Installation',
		summary:
			'The key that signs the archives of this installation, and those it trusts (administrators)',
		access: 'signed-in',
		handle: ({ actor }) => viewInstallation(actor)
	}),
	endpoint<{ name: string; publicKey: string }>({
		method: 'POST',
		path: '/installation/trusted',
		tag: 'Installation',
		summary: 'Trust the archives that another installation signs (administrators)',
		access: 'signed-in',
		body: joi.object({
			name: joi
				.string()
				.trim()
				.min(2)
				.max(120)
				.required()
				.label('Name')
				.example('Office of the southern coast'),
			publicKey: publicKey().example('11qYAYKxCrfVS_7TyWQHOg7hcvPapiMlrwIaaPcHURo')
		}),
		status: 201,
		handle: ({ actor, body }) => trustInstallation(actor, body)
	}),
	endpoint({
		method: 'POST',
		path: '/installation/trusted/:publicKey/withdrawal',
		tag: 'Installation',
		summary: 'Trust an installation no longer (administrators)',
		access: 'signed-in',
		handle: ({ actor, param }) => withdrawInstallation(actor, param('publicKey'))
	})
];
