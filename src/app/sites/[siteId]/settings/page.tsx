import type { Metadata } from 'next';
import { Screen } from '@/ui/parts/Screen';
import { SettingsForm } from '@/ui/settings/SettingsForm';
import { siteFromPath, type SitePageProps } from '../site';
import { saveSettings } from './actions';

export const metadata: Metadata = { title: 'Settings' };

export default async function SettingsPage({ params }: SitePageProps) {
  const { site } = siteFromPath((await params).siteId);
  return (
    <Screen title="Settings" lead="How this site’s changes are read, unless a change says otherwise.">
      <SettingsForm site={site} save={saveSettings} />
    </Screen>
  );
}
